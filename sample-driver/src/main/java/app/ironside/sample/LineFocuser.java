package app.ironside.sample;

import app.ironside.device.DeviceException;
import app.ironside.device.DeviceLost;
import app.ironside.device.Focuser;
import app.ironside.device.Operation;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Optional;

/**
 * A focuser that answers lines of text: {@code position?}, {@code end?} and {@code tube?} with a number, {@code moving?} with 0 or 1,
 * {@code go 1200} and {@code stop} with {@code ok}.
 */
final class LineFocuser implements Focuser {
    /** A focuser that does not answer by then is lost: the night must not wait for it. */
    private static final int ANSWER_MILLIS = 2000;

    /** The slowest focuser runs from end to end in this time. */
    private static final Duration LONGEST_MOVE = Duration.ofMinutes(3);

    private final String host;
    private final int port;
    private Link link = Link.CLOSED;
    private Optional<Wire> wire = Optional.empty();
    private int end;

    LineFocuser(String host, int port) {
        this.host = host;
        this.port = port;
    }

    /** An open connection. */
    private record Wire(Socket socket, BufferedReader in, OutputStream out) {
        static Wire open(String host, int port) throws IOException {
            Socket socket = new Socket();
            socket.connect(new InetSocketAddress(host, port), ANSWER_MILLIS);
            socket.setSoTimeout(ANSWER_MILLIS);
            return new Wire(
                    socket,
                    new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII)),
                    socket.getOutputStream());
        }

        String ask(String line) throws IOException {
            out.write((line + "\n").getBytes(StandardCharsets.US_ASCII));
            out.flush();
            String answer = in.readLine();
            if (answer == null) {
                throw new IOException("it hung up");
            }
            return answer;
        }

        void close() {
            try {
                socket.close();
            } catch (IOException e) {
                // It is gone already, which is what was wanted.
            }
        }
    }

    @Override
    public Link link() {
        return link;
    }

    @Override
    public void connect() {
        if (link == Link.CONNECTED) {
            return;
        }
        try {
            wire = Optional.of(Wire.open(host, port));
            link = Link.CONNECTED;
            end = number("end?");
        } catch (IOException e) {
            throw new DeviceException(
                    name(),
                    "nothing answers at " + host + ":" + port,
                    "Look at its power, its network, and its address at Site and kit.");
        }
    }

    @Override
    public void disconnect() {
        wire.ifPresent(Wire::close);
        wire = Optional.empty();
        link = Link.CLOSED;
    }

    private String ask(String line) {
        if (link != Link.CONNECTED) {
            throw new DeviceLost(name());
        }
        try {
            return wire.orElseThrow().ask(line);
        } catch (IOException e) {
            wire.ifPresent(Wire::close);
            wire = Optional.empty();
            link = Link.LOST;
            throw new DeviceLost(name());
        }
    }

    private int number(String question) {
        String answer = ask(question);
        try {
            return Integer.parseInt(answer.strip());
        } catch (NumberFormatException e) {
            throw new DeviceException(
                    name(),
                    "it answered \"" + answer + "\" to \"" + question + "\"",
                    "Another device may be at its address; look at Site and kit.");
        }
    }

    @Override
    public int positionSteps() {
        return number("position?");
    }

    @Override
    public int maxSteps() {
        return end;
    }

    /** The device counts in tenths of a degree. */
    @Override
    public double temperatureC() {
        return number("tube?") / 10.0;
    }

    @Override
    public Operation moveTo(int wanted) {
        if (wanted < 0 || wanted > end) {
            throw new DeviceException(
                    name(),
                    "position " + wanted + " is beyond its ends, 0 and " + end,
                    "If it should not be, it has lost its zero: run it to the inner end and set 0 there.");
        }
        ask("go " + wanted);
        return new Move();
    }

    /** The move that was begun last. This focuser cannot tell how long it still needs: it is asked whether it moves. */
    private final class Move implements Operation {
        private State state = State.UNDER_WAY;

        @Override
        public String device() {
            return name();
        }

        @Override
        public String what() {
            return "the move";
        }

        @Override
        public State state() {
            if (state == State.UNDER_WAY && number("moving?") == 0) {
                state = State.DONE;
            }
            return state;
        }

        @Override
        public Optional<Duration> remaining() {
            return state == State.UNDER_WAY ? Optional.empty() : Optional.of(Duration.ZERO);
        }

        @Override
        public Duration limit() {
            return LONGEST_MOVE;
        }

        @Override
        public void abort() {
            if (state() == State.UNDER_WAY) {
                ask("stop");
                state = State.ABORTED;
            }
        }
    }
}
