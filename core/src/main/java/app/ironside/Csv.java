package app.ironside;

/** Cells of tables that spreadsheets open. */
public final class Csv {
    private Csv() {}

    /**
     * Text as a cell: quoted where a separator, a quote or a line's end is in it (RFC 4180), without control characters, and never a
     * formula: what begins like one gets an apostrophe before it, which spreadsheets take for "text follows".
     */
    public static String cell(String text) {
        String plain = text.isEmpty() ? "" : Printable.line(text);
        String safe = plain.matches("[=+@\\-].*") && !plain.matches("[+-]?[0-9.]+") ? "'" + plain : plain;
        return safe.matches(".*[\",;].*") ? "\"" + safe.replace("\"", "\"\"") + "\"" : safe;
    }
}
