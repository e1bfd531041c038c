package app.ironside;

/** Argument checks whose messages name the argument, its value and what was expected. */
public final class Check {
    private static final int LONGEST_NAME = 120;

    private Check() {}

    /**
     * Returns {@code value} if it lies in the closed range.
     *
     * @throws IllegalArgumentException outside the range, and for NaN
     */
    public static double inRange(String name, double value, double low, double high) {
        if (!(value >= low && value <= high)) {
            throw new IllegalArgumentException(name + " is " + value + "; expected " + low + " to " + high);
        }
        return value;
    }

    /**
     * Returns {@code value} if it is above zero and finite.
     *
     * @throws IllegalArgumentException otherwise
     */
    public static double positive(String name, double value) {
        if (!(value > 0) || Double.isInfinite(value)) {
            throw new IllegalArgumentException(name + " is " + value + "; expected more than 0");
        }
        return value;
    }

    /**
     * Returns {@code value} if it is at least {@code low}.
     *
     * @throws IllegalArgumentException otherwise
     */
    public static int atLeast(String name, int value, int low) {
        if (value < low) {
            throw new IllegalArgumentException(name + " is " + value + "; expected at least " + low);
        }
        return value;
    }

    /**
     * Returns {@code value} if it can be the name of something: 1 to 120 characters, some of them letters or digits, no control
     * characters.
     *
     * @throws IllegalArgumentException otherwise, and for {@code null}
     */
    public static String name(String what, String value) {
        if (value == null
                || value.length() > LONGEST_NAME
                || !value.codePoints().anyMatch(Character::isLetterOrDigit)
                || !Printable.line(value).equals(value.strip())) {
            String shown = value == null ? "missing" : "\"" + Printable.line(value) + "\"";
            throw new IllegalArgumentException(what + " is " + shown + "; expected 1 to " + LONGEST_NAME
                    + " letters, digits and signs, on one line");
        }
        return value;
    }
}
