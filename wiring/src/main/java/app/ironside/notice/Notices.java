package app.ironside.notice;

import app.ironside.BadInputException;
import app.ironside.JsonText;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.HexFormat;
import java.util.List;

/**
 * How a person wants to be told, kept beside the logbook.
 *
 * @param sound a tone, when it is worth waking them
 * @param system a notification of the operating system
 * @param command a program of their own with its arguments, which gets each alert as JSON on its standard input; empty for none
 * @param page whether the status page is served on the local network
 * @param port of the page
 * @param token part of the page's address, without which nothing is shown
 */
public record Notices(boolean sound, boolean system, List<String> command, boolean page, int port, String token) {
    /** A tone and nothing that leaves the machine. */
    public static final Notices USUAL = new Notices(true, false, List.of(), false, 8734, "");

    private static final String FILE = "notices.json";
    private static final int TOKEN_BYTES = 12;
    private static final String EXAMPLE =
            "{\"sound\": true, \"system\": false, \"command\": [], \"page\": false, \"port\": 8734, \"token\": \"\"}";

    public Notices {
        command = List.copyOf(command);
        if (port < 1024 || port > 65_535) {
            throw new IllegalArgumentException("the port is " + port + "; expected 1024 to 65535");
        }
        if (page && token.length() < 2 * TOKEN_BYTES) {
            throw new IllegalArgumentException("the page needs a token of " + 2 * TOKEN_BYTES + " letters at least");
        }
    }

    /**
     * As they were kept; the usual ones if none were.
     *
     * @throws BadInputException if the file is damaged
     */
    public static Notices in(Path folder) {
        Path file = folder.resolve(FILE);
        if (!Files.exists(file)) {
            return USUAL;
        }
        try {
            return JsonText.read(Files.readString(file), Notices.class, file.toString(), EXAMPLE);
        } catch (IOException e) {
            throw new UncheckedIOException(file + " cannot be read", e);
        } catch (IllegalArgumentException e) {
            throw new BadInputException(file.toString(), e.getMessage(), EXAMPLE, e);
        }
    }

    /** Keeps them. */
    public void keep(Path folder) {
        try {
            Path file = folder.resolve(FILE);
            Path half = folder.resolve(FILE + ".new");
            Files.writeString(half, JsonText.tree(this).toPrettyString());
            Files.move(half, file, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            throw new UncheckedIOException("how you are told could not be kept in " + folder, e);
        }
    }

    /** With the page on or off; a token is made when it is switched on for the first time. */
    public Notices withPage(boolean on) {
        return new Notices(sound, system, command, on, port, token.isEmpty() && on ? newToken() : token);
    }

    public Notices withSound(boolean on) {
        return new Notices(on, system, command, page, port, token);
    }

    public Notices withSystem(boolean on) {
        return new Notices(sound, on, command, page, port, token);
    }

    public Notices withCommand(List<String> other) {
        return new Notices(sound, system, other, page, port, token);
    }

    public Notices withPort(int other) {
        return new Notices(sound, system, command, page, other, token);
    }

    private static String newToken() {
        byte[] bytes = new byte[TOKEN_BYTES];
        new SecureRandom().nextBytes(bytes);
        return HexFormat.of().formatHex(bytes);
    }
}
