package app.ironside;

/** Input that cannot be used: where it is, what is there, and what would be right, in one line. */
public final class BadInputException extends RuntimeException {
    private final String where;
    private final String found;
    private final String expected;

    /**
     * @param where the file, line or option
     * @param found what is there, as a clause: "has 3 axes"
     * @param expected what would be right
     */
    public BadInputException(String where, String found, String expected) {
        this(where, found, expected, null);
    }

    /** As above, with the failure underneath. */
    public BadInputException(String where, String found, String expected, Throwable cause) {
        super(where + ": " + found + "; expected " + expected, cause);
        this.where = where;
        this.found = found;
        this.expected = expected;
    }

    /** The same fault with an outer place put before it, for example the file before the line, unless it is named already. */
    public BadInputException in(String outer) {
        return where.startsWith(outer) ? this : new BadInputException(outer + ", " + where, found, expected, this);
    }

    /** What is wrong and what would be right, for a list that names the place already. */
    public String reasonFor(String place) {
        String rest = where.startsWith(place) ? where.substring(place.length()).replaceFirst("^[,:]?\\s*", "") : where;
        return (rest.isEmpty() ? "" : rest + ": ") + found + "; expected " + expected;
    }
}
