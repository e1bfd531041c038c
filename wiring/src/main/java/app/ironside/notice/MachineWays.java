package app.ironside.notice;

import java.time.Duration;
import java.util.List;
import java.util.Locale;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.SourceDataLine;

/** The tone and the notification of the machine that the night runs on. */
final class MachineWays implements Herald.Ways {
    private static final float RATE = 22_050;

    /** Two tones a fifth apart, five times: heard through a door, and like no telephone. */
    private static final double[] HERTZ = {660, 990};

    private static final int TIMES = 5;
    private static final double SECONDS = 0.28;
    private static final double FADE_SECONDS = 0.02;
    private static final double LOUD = 0.6;
    private static final Duration LONGEST_NOTE = Duration.ofSeconds(5);

    @Override
    public void tone() {
        AudioFormat format = new AudioFormat(RATE, 16, 1, true, false);
        try (SourceDataLine line = AudioSystem.getSourceDataLine(format)) {
            line.open(format);
            line.start();
            for (int i = 0; i < TIMES; i++) {
                for (double hertz : HERTZ) {
                    byte[] sound = samples(hertz);
                    line.write(sound, 0, sound.length);
                }
            }
            line.drain();
        } catch (LineUnavailableException | IllegalArgumentException silent) {
            throw new IllegalStateException("this machine has no loudspeaker that could be used", silent);
        }
    }

    /** A tone with soft ends, 16 bits, little-endian. */
    static byte[] samples(double hertz) {
        int count = (int) (SECONDS * RATE);
        byte[] sound = new byte[2 * count];
        for (int i = 0; i < count; i++) {
            double fade = Math.min(1, Math.min(i, count - i) / (FADE_SECONDS * RATE));
            int value = (int) (LOUD * fade * Short.MAX_VALUE * Math.sin(2 * Math.PI * hertz * i / RATE));
            sound[2 * i] = (byte) value;
            sound[2 * i + 1] = (byte) (value >> 8);
        }
        return sound;
    }

    @Override
    public void note(String title, String text) {
        OwnCommand.run(command(System.getProperty("os.name", ""), title, text), "", LONGEST_NOTE);
    }

    /** How a system shows a notification; the words go as arguments, never into a script's text. */
    static List<String> command(String system, String title, String text) {
        String os = system.toLowerCase(Locale.ROOT);
        if (os.contains("mac")) {
            return List.of(
                    "osascript",
                    "-e",
                    "on run argv",
                    "-e",
                    "display notification (item 2 of argv) with title (item 1 of argv)",
                    "-e",
                    "end run",
                    title,
                    text);
        }
        if (os.contains("win")) {
            return List.of("msg", "*", "/TIME:3600", title + ": " + text);
        }
        return List.of("notify-send", "--urgency=critical", "--app-name=Ironside", title, text);
    }
}
