package app.ironside.image;

import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.zip.GZIPInputStream;

/**
 * Reads the cards of a file's first picture and nothing else: a library of ten thousand frames is known in seconds, which reading them as
 * pictures would take minutes for.
 *
 * @see "FITS standard 4.0, sections 4.1, 4.2 and 10.1"
 */
final class HeadScan {
    private static final int BLOCK = 2880;
    private static final int CARD = 80;
    private static final int MOST_BLOCKS = 1000;
    private static final int MOST_UNITS = 200;

    private HeadScan() {}

    /** Empty if the file holds no picture. */
    static Optional<FrameHead> of(Path file) throws IOException {
        try (InputStream raw = new BufferedInputStream(Files.newInputStream(file), 2 * BLOCK)) {
            raw.mark(4);
            boolean packed = raw.read() == 0x1f && raw.read() == 0x8b;
            raw.reset();
            InputStream in = packed ? new GZIPInputStream(raw, 2 * BLOCK) : raw;
            for (int unit = 0; unit < MOST_UNITS; unit++) {
                Optional<Header> header = header(in);
                if (header.isEmpty()) {
                    return Optional.empty();
                }
                Header h = header.get();
                boolean table = h.text("XTENSION").orElse("").contains("TABLE");
                boolean packedPicture = Boolean.TRUE.equals(h.values().get("ZIMAGE"));
                String axes = packedPicture ? "ZNAXIS" : "NAXIS";
                long count = whole(h, axes, 0);
                if ((!table || packedPicture) && count >= 2) {
                    long planes = 1;
                    for (int axis = 3; axis <= count; axis++) {
                        planes *= Math.max(1, whole(h, axes + axis, 1));
                    }
                    return Optional.of(new FrameHead(
                            (int) whole(h, axes + 1, 0),
                            (int) whole(h, axes + 2, 0),
                            (int) planes,
                            h.without(FitsFiles::isStructural)));
                }
                in.skipNBytes(padded(h));
            }
        }
        return Optional.empty();
    }

    /** Bytes of a unit's data. */
    private static long padded(Header h) {
        long axes = whole(h, "NAXIS", 0);
        long values = axes == 0 ? 0 : 1;
        for (int axis = 1; axis <= axes; axis++) {
            values *= whole(h, "NAXIS" + axis, 0);
        }
        long bytes = (values + (axes == 0 ? 0 : whole(h, "PCOUNT", 0)))
                * Math.max(1, whole(h, "GCOUNT", 1))
                * Math.abs(whole(h, "BITPIX", 8))
                / 8;
        return (bytes + BLOCK - 1) / BLOCK * BLOCK;
    }

    private static long whole(Header h, String keyword, long otherwise) {
        return h.number(keyword).isPresent() ? (long) h.number(keyword).getAsDouble() : otherwise;
    }

    /** The cards of a unit; empty at the end of the file. */
    private static Optional<Header> header(InputStream in) throws IOException {
        Header.Builder header = new Header.Builder();
        for (int blocks = 0; blocks < MOST_BLOCKS; blocks++) {
            byte[] block = in.readNBytes(BLOCK);
            if (block.length == 0 && blocks == 0) {
                return Optional.empty();
            }
            for (int from = 0; from + CARD <= block.length; from += CARD) {
                String keyword = new String(block, from, 8, StandardCharsets.ISO_8859_1).strip();
                if (keyword.equals("END")) {
                    return Optional.of(header.build());
                }
                if (block[from + 8] == '=' && block[from + 9] == ' ') {
                    value(new String(block, from + 10, CARD - 10, StandardCharsets.ISO_8859_1))
                            .ifPresent(v -> header.put(keyword, v));
                }
            }
            if (block.length < BLOCK) {
                throw new EOFException("it ends within its header");
            }
        }
        throw new IOException("its header has no end");
    }

    /** A card's value: text in quotes, true or false, a whole or a real number; empty for what is none of these. */
    static Optional<Object> value(String field) {
        String text = field.strip();
        if (text.startsWith("'")) {
            StringBuilder value = new StringBuilder();
            for (int i = 1; i < text.length(); i++) {
                char c = text.charAt(i);
                if (c == '\'') {
                    if (i + 1 >= text.length() || text.charAt(i + 1) != '\'') {
                        break;
                    }
                    i++;
                }
                value.append(c);
            }
            return Optional.of(value.toString().stripTrailing());
        }
        int comment = text.indexOf('/');
        String plain = (comment < 0 ? text : text.substring(0, comment)).strip();
        if (plain.equals("T") || plain.equals("F")) {
            return Optional.of(plain.equals("T"));
        }
        try {
            return Optional.of(Long.valueOf(plain));
        } catch (NumberFormatException notWhole) {
            try {
                return Optional.of(Double.valueOf(plain.replace('D', 'E').replace('d', 'e')));
            } catch (NumberFormatException e) {
                return Optional.empty();
            }
        }
    }
}
