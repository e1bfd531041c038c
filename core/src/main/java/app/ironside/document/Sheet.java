package app.ironside.document;

import app.ironside.Printable;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.Locale;

/** A sheet of paper as XHTML without anything outside it, which becomes PDF as well. */
final class Sheet {
    /** Cells as long as this are not broken. */
    private static final int SHORT = 8;

    private final StringBuilder html = new StringBuilder();

    Sheet(String title) {
        html.append(
                        "<!DOCTYPE html>\n<html xmlns=\"http://www.w3.org/1999/xhtml\"><head><meta charset=\"UTF-8\"/><title>")
                .append(escape(title))
                .append("</title><style>\n")
                .append("@page { size: A4; margin: 14mm }\n")
                .append("body { font-family: '" + Typeface.FAMILY
                        + "', sans-serif; font-size: 11pt; line-height: 1.2; color: #111 }\n")
                .append("h1 { font-size: 19pt; margin: 0 } h2 { font-size: 13pt; margin: 14pt 0 4pt 0 }\n")
                .append(
                        "table { border-collapse: collapse; width: 100% } th { text-align: left; font-size: 9pt; color: #555 }\n")
                .append("td, th { padding: 3pt 8pt 3pt 0; border-bottom: 0.5pt solid #bbb; vertical-align: top }\n")
                .append(".box { width: 11pt; height: 11pt; border: 1pt solid #111; display: inline-block }\n")
                .append(".short { white-space: nowrap }\n")
                .append(".whole { page-break-inside: avoid }\n")
                .append(".warn { font-weight: bold }\n</style></head><body>\n<h1>")
                .append(escape(title))
                .append("</h1>\n");
    }

    void paragraph(String words) {
        html.append("<p>").append(escape(words)).append("</p>\n");
    }

    void warning(String words) {
        html.append("<p class=\"warn\">! ").append(escape(words)).append("</p>\n");
    }

    /** What follows up to {@link #endWhole} stays on one page. */
    void beginWhole() {
        html.append("<div class=\"whole\">");
    }

    void endWhole() {
        html.append("</div>\n");
    }

    void heading(String words) {
        html.append("<h2>").append(escape(words)).append("</h2>\n");
    }

    /** Begins a table; what its columns are called may be left out. */
    void table(String... heads) {
        html.append("<table>");
        if (heads.length > 0) {
            html.append("<tr>");
            for (String head : heads) {
                html.append("<th>").append(escape(head)).append("</th>");
            }
            html.append("</tr>");
        }
        html.append('\n');
    }

    void row(String... cells) {
        html.append("<tr>");
        cells(cells);
        html.append("</tr>\n");
    }

    /** A row with a box to be ticked by hand. */
    void ticked(String... cells) {
        html.append("<tr><td><span class=\"box\"></span></td>");
        cells(cells);
        html.append("</tr>\n");
    }

    private void cells(String... cells) {
        for (String cell : cells) {
            html.append(cell.length() <= SHORT ? "<td class=\"short\">" : "<td>")
                    .append(escape(cell))
                    .append("</td>");
        }
    }

    void endTable() {
        html.append("</table>\n");
    }

    /**
     * A picture as wide as the sheet.
     *
     * @param what it shows, for who cannot see it
     */
    void picture(byte[] png, String what) {
        html.append("<p><img style=\"width: 100%\" alt=\"")
                .append(escape(what))
                .append("\" src=\"data:image/png;base64,")
                .append(Base64.getEncoder().encodeToString(png))
                .append("\" /></p>\n");
    }

    /** A picture's file as it is. */
    static byte[] read(Path png) {
        try {
            return Files.readAllBytes(png);
        } catch (IOException e) {
            throw new UncheckedIOException(png + " cannot be read: " + e.getMessage(), e);
        }
    }

    /** The whole sheet. */
    String html() {
        return html + "</body></html>\n";
    }

    /**
     * Writes a sheet whole or not at all: as PDF, or as a page where the name ends in .html.
     *
     * @throws app.ironside.BadInputException if nothing can be written there
     */
    static void write(Path to, String html) {
        Destination.file(to, "the report", List.of());
        boolean page = to.toString().toLowerCase(Locale.ROOT).endsWith(".html");
        AtomicFile.write(to, out -> {
            if (page) {
                out.write(html.getBytes(StandardCharsets.UTF_8));
            } else {
                pdf(html, out);
            }
        });
    }

    static void pdf(String html, OutputStream out) throws IOException {
        PdfRendererBuilder builder = new PdfRendererBuilder();
        for (Typeface face : Typeface.values()) {
            builder.useFont(face::open, Typeface.FAMILY, face.weight(), BaseRendererBuilder.FontStyle.NORMAL, true);
        }
        builder.withHtmlContent(html, null);
        builder.toStream(out);
        try {
            builder.run();
        } catch (RuntimeException e) {
            throw new IOException("the sheet cannot be drawn as PDF: " + e.getMessage(), e);
        }
    }

    /** Marks of HTML, and characters that no XML may hold (XML 1.0, section 2.2). */
    private static String escape(String text) {
        return Printable.line(text)
                .replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\"", "&quot;");
    }
}
