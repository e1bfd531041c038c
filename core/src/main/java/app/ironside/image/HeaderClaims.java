package app.ironside.image;

import app.ironside.BadInputException;
import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.zip.GZIPInputStream;

/**
 * What the headers of a FITS file claim, held against the file itself before any room is made for it: a header of a few lines can
 * promise more than any memory holds.
 *
 * @see "FITS standard 4.0, sections 3.3 and 4.4.1"
 */
final class HeaderClaims {
    private static final int BLOCK = 2880;
    private static final int CARD = 80;

    /** Longer headers are no pictures of this sky: 36,000 cards. */
    private static final int MOST_BLOCKS = 1000;

    private static final int MOST_AXES = 999;
    private static final int MOST_UNITS = 200;
    private static final Set<Long> BITPIX = Set.of(8L, 16L, 32L, 64L, -32L, -64L);

    /** No byte of a packed file gives more: the largest ratio of deflate (RFC 1951 as zlib states it). */
    private static final long MOST_UNPACKED = 1032;

    private final Path file;
    private final String expected;
    private final long size;
    private final boolean packed;

    private HeaderClaims(Path file, String expected, long size, boolean packed) {
        this.file = file;
        this.expected = expected;
        this.size = size;
        this.packed = packed;
    }

    /**
     * Checks a file as far as its first picture.
     *
     * @param expected what would be right, for messages
     * @throws BadInputException naming the file, if it is no FITS file, claims what the standard does not allow or the file does not hold,
     *     or needs more memory than there is
     */
    static void check(Path file, String expected) {
        try (InputStream raw = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
            raw.mark(4);
            boolean gzip = raw.read() == 0x1f && raw.read() == 0x8b;
            raw.reset();
            new HeaderClaims(file, expected, Files.size(file), gzip).follow(gzip ? new GZIPInputStream(raw) : raw);
        } catch (EOFException e) {
            throw new BadInputException(file.toString(), "ends within its header", expected, e);
        } catch (IOException e) {
            throw new BadInputException(file.toString(), "cannot be read (" + e.getMessage() + ")", expected, e);
        }
    }

    private void follow(InputStream in) throws IOException {
        long at = 0;
        for (int unit = 0; unit < MOST_UNITS; unit++) {
            Map<String, String> cards = new HashMap<>();
            int blocks = header(in, cards, unit == 0);
            if (blocks == 0) {
                return; // no further unit; whoever reads it says what is missing
            }
            at += (long) blocks * BLOCK;
            long bytes = dataBytes(cards);
            if (!packed && at + bytes > size) {
                throw bad("has " + size + " bytes, of the " + (at + bytes) + " that its header promises");
            }
            if (packed && bytes / MOST_UNPACKED > size) {
                throw bad("is packed into " + size + " bytes, and its header promises " + bytes);
            }
            boolean picture =
                    !cards.getOrDefault("XTENSION", "'IMAGE").contains("TABLE") && number(cards, "NAXIS", 0) >= 2;
            if (picture) {
                mustFitMemory(bytes, number(cards, "BITPIX", 8));
                return;
            }
            long padded = (bytes + BLOCK - 1) / BLOCK * BLOCK;
            in.skipNBytes(padded);
            at += padded;
        }
        throw bad("has more than " + MOST_UNITS + " parts before the first picture");
    }

    /** Reads a header; returns its blocks, 0 at the end of the file. */
    private int header(InputStream in, Map<String, String> cards, boolean first) throws IOException {
        for (int blocks = 1; blocks <= MOST_BLOCKS; blocks++) {
            byte[] block = in.readNBytes(BLOCK);
            if (block.length == 0 && blocks == 1 && !first) {
                return 0;
            }
            if (blocks == 1 && !first && !text(block, 0, 8).equals("XTENSION")) {
                return 0; // special records or noise after the last unit
            }
            if (blocks == 1 && first && !text(block, 0, 6).equals("SIMPLE")) {
                throw bad("does not begin as a FITS file");
            }
            for (int from = 0; from + CARD <= block.length; from += CARD) {
                String keyword = text(block, from, 8).strip();
                if (keyword.equals("END")) {
                    return blocks;
                }
                if (text(block, from + 8, 1).equals("=")) {
                    cards.putIfAbsent(
                            keyword,
                            text(block, from + 10, CARD - 10)
                                    .replaceFirst("/.*", "")
                                    .strip());
                }
            }
            if (block.length < BLOCK) {
                throw new EOFException();
            }
        }
        throw bad("has a header of more than " + MOST_BLOCKS * BLOCK / CARD + " cards");
    }

    private static String text(byte[] block, int from, int count) {
        int have = Math.max(0, Math.min(count, block.length - from));
        return new String(block, Math.min(from, block.length), have, StandardCharsets.ISO_8859_1);
    }

    private long dataBytes(Map<String, String> cards) {
        long bitpix = number(cards, "BITPIX", 8);
        if (!BITPIX.contains(bitpix)) {
            throw bad("has BITPIX " + bitpix);
        }
        long axes = number(cards, "NAXIS", 0);
        if (axes < 0 || axes > MOST_AXES) {
            throw bad("has NAXIS " + axes);
        }
        long values = axes == 0 ? 0 : 1;
        try {
            for (int axis = 1; axis <= axes; axis++) {
                long length = number(cards, "NAXIS" + axis, 0);
                if (length < 0) {
                    throw bad("has NAXIS" + axis + " " + length);
                }
                values = Math.multiplyExact(values, length);
            }
            long more = Math.max(0, number(cards, "PCOUNT", 0));
            long groups = Math.max(1, number(cards, "GCOUNT", 1));
            return Math.multiplyExact(
                    Math.multiplyExact(Math.addExact(values, axes == 0 ? 0 : more), groups), Math.abs(bitpix) / 8);
        } catch (ArithmeticException e) {
            throw bad("promises more values than can be counted");
        }
    }

    private long number(Map<String, String> cards, String keyword, long otherwise) {
        String text = cards.get(keyword);
        if (text == null) {
            return otherwise;
        }
        try {
            return Long.parseLong(text.strip());
        } catch (NumberFormatException e) {
            throw bad("has " + keyword + " " + (text.length() > 24 ? text.substring(0, 24) + "…" : text));
        }
    }

    /** The values as they are stored and once more as 32-bit floats. */
    private void mustFitMemory(long bytes, long bitpix) {
        long values = bytes / (Math.abs(bitpix) / 8);
        long needed = bytes + 4 * values;
        long most = Runtime.getRuntime().maxMemory();
        if (needed > most) {
            throw new BadInputException(
                    file.toString(),
                    String.format(
                            java.util.Locale.ROOT,
                            "holds %d megapixels, which take %.1f GB of memory; %.1f GB are allowed",
                            values / 1_000_000,
                            needed / 1e9,
                            most / 1e9),
                    "a smaller picture, or more memory by setting IRONSIDE_MEMORY (for instance 8g)");
        }
    }

    private BadInputException bad(String found) {
        return new BadInputException(file.toString(), found, expected);
    }
}
