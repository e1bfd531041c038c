package app.ironside.sample;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;

/** The other end of the wire: a stepper that runs 400 steps in a second. */
final class LineMachine implements AutoCloseable {
    private static final int END = 6000;
    private static final double STEPS_PER_MILLI = 0.4;

    private final int port;
    private ServerSocket door;
    private Socket guest;
    private volatile boolean babbling;
    private double at = 1500;
    private int wanted = 1500;
    private long looked = System.nanoTime();

    LineMachine() throws IOException {
        door = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
        port = door.getLocalPort();
        serve(door);
    }

    int port() {
        return port;
    }

    void open() throws IOException {
        door = new ServerSocket(port, 1, InetAddress.getLoopbackAddress());
        serve(door);
    }

    void babble(boolean on) {
        babbling = on;
    }

    private void serve(ServerSocket at) {
        Thread server = new Thread(() -> {
            while (!at.isClosed()) {
                try (Socket socket = at.accept()) {
                    guest = socket;
                    talk(socket);
                } catch (IOException e) {
                    // The cable was pulled.
                }
            }
        });
        server.setDaemon(true);
        server.start();
    }

    private void talk(Socket socket) throws IOException {
        BufferedReader in =
                new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII));
        OutputStream out = socket.getOutputStream();
        for (String line = in.readLine(); line != null; line = in.readLine()) {
            out.write(((babbling ? "hello" : answer(line)) + "\n").getBytes(StandardCharsets.US_ASCII));
        }
    }

    private synchronized String answer(String line) {
        move();
        if (line.startsWith("go ")) {
            wanted = Integer.parseInt(line.substring(3));
            return "ok";
        }
        return switch (line) {
            case "position?" -> String.valueOf(Math.round(at));
            case "end?" -> String.valueOf(END);
            case "tube?" -> "87";
            case "moving?" -> at == wanted ? "0" : "1";
            case "stop" -> {
                wanted = (int) Math.round(at);
                at = wanted;
                yield "ok";
            }
            default -> "?";
        };
    }

    private void move() {
        long now = System.nanoTime();
        double most = (now - looked) / 1e6 * STEPS_PER_MILLI;
        looked = now;
        at += Math.max(-most, Math.min(most, wanted - at));
    }

    @Override
    public void close() {
        try {
            door.close();
            if (guest != null) {
                guest.close();
            }
        } catch (IOException e) {
            // It is closed.
        }
    }
}
