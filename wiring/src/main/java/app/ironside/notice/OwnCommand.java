package app.ironside.notice;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** Runs a program of the person's own with a line of JSON on its standard input. No shell stands between. */
final class OwnCommand {
    private OwnCommand() {}

    /**
     * Runs it to its end.
     *
     * @throws IllegalStateException if it cannot be started, takes too long, or ends with an error
     */
    static void run(List<String> command, String line, Duration longest) {
        try {
            Process process = new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            try (OutputStream in = process.getOutputStream()) {
                in.write((line + "\n").getBytes(StandardCharsets.UTF_8));
            } catch (IOException deaf) {
                // A program may end without reading; its exit code tells whether that is an error.
            }
            if (!process.waitFor(longest.toMillis(), TimeUnit.MILLISECONDS)) {
                process.descendants().forEach(ProcessHandle::destroyForcibly);
                process.destroyForcibly();
                throw new IllegalStateException(
                        "it was still running after " + longest.toSeconds() + " s and was ended");
            }
            if (process.exitValue() != 0) {
                throw new IllegalStateException("it ended with " + process.exitValue());
            }
        } catch (IOException e) {
            throw new IllegalStateException("it could not be started: " + e.getMessage(), e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
