package app.ironside;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
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

    /** More than the largest table of text that anybody edits, less than would fill the memory. */
    private static final int MOST_BYTES = 128 << 20;

    private TextFiles() {}

    /**
     * Reads a file. A byte-order mark is passed over; bytes that are no UTF-8 are read as Windows-1252.
     *
     * @param expected what the file should be, for the message
     * @throws BadInputException naming the file if it cannot be read or does not end within 128 MB
     */
    public static String read(Path file, String expected) {
        byte[] bytes;
        // A stream and not the file's size: what is no plain file has none, and may never end.
        try (InputStream in = Files.newInputStream(file)) {
            bytes = in.readNBytes(MOST_BYTES + 1);
        } catch (IOException e) {
            throw new BadInputException(file.toString(), "cannot be read", expected, e);
        }
        if (bytes.length > MOST_BYTES) {
            throw new BadInputException(file.toString(), "holds more than " + (MOST_BYTES >> 20) + " MB", expected);
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
