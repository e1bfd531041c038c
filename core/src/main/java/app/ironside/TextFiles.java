package app.ironside;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.StringReader;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Text that people and their programs write: UTF-8, or what older spreadsheets and editors leave. */
public final class TextFiles {
    private static final String BYTE_ORDER_MARK = "\uFEFF";

    private TextFiles() {}

    /**
     * Reads a file. A byte-order mark is passed over; bytes that are no UTF-8 are read as Windows-1252.
     *
     * @param expected what the file should be, for the message
     * @throws BadInputException naming the file if it cannot be read
     */
    public static String read(Path file, String expected) {
        byte[] bytes;
        try {
            bytes = Files.readAllBytes(file);
        } catch (IOException e) {
            throw new BadInputException(file.toString(), "cannot be read", expected, e);
        }
        String text;
        try {
            text = StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (CharacterCodingException e) {
            text = new String(bytes, Charset.forName("windows-1252"));
        }
        return text.startsWith(BYTE_ORDER_MARK) ? text.substring(1) : text;
    }

    /** As {@link #read}, line by line, whatever ends them. */
    public static List<String> lines(Path file, String expected) {
        return read(file, expected).lines().toList();
    }

    /** As {@link #read}, for what reads for itself; closing it does nothing. */
    public static BufferedReader reader(Path file, String expected) {
        return new BufferedReader(new StringReader(read(file, expected)));
    }
}
