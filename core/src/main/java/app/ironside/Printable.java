package app.ironside;

/** Text of files and devices, made fit for a terminal, a log line or a title. */
public final class Printable {
    private static final int MOST = 600;

    private Printable() {}

    /**
     * One line without control characters, which a terminal would obey, without marks that turn the direction of writing, and of bounded
     * length. What is left out shows as one mark.
     *
     * @param text {@code null} gives "no message"
     */
    public static String line(String text) {
        if (text == null) {
            return "no message";
        }
        String plain = text.strip()
                .replaceAll("\\s*\\R\\s*", " ")
                .replaceAll("[\\p{Cc}\\u200E\\u200F\\u202A-\\u202E\\u2066-\\u2069\\p{Cs}\\uFFFE\\uFFFF]", "\uFFFD");
        return plain.length() <= MOST
                ? plain
                : plain.substring(0, MOST / 2) + " … " + plain.substring(plain.length() - MOST / 4);
    }
}
