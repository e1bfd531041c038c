package app.ironside.image;

import app.ironside.BadInputException;
import app.ironside.Check;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import nom.tam.fits.BasicHDU;
import nom.tam.fits.Fits;
import nom.tam.fits.FitsException;
import nom.tam.fits.FitsFactory;
import nom.tam.fits.HeaderCard;
import nom.tam.fits.ImageHDU;
import nom.tam.image.compression.hdu.CompressedImageHDU;
import nom.tam.util.Cursor;
import nom.tam.util.FitsOutputStream;

/** Reads and writes FITS images (FITS standard 4.0). Writing is atomic: a file is there whole or not at all. */
public final class FitsFiles {
    /** How pixels are stored. */
    public enum Encoding {
        /** 16-bit integers with BZERO 32768, values rounded and held to 0 to 65535: what a camera gives. */
        UNSIGNED_16,
        /** 32-bit floats: what arithmetic gives; NaN is kept. */
        FLOAT_32
    }

    private static final int BLOCK = 2880;

    /** Keywords that describe the file and not the picture, so that they are not carried from one file to the next. */
    private static final Set<String> STRUCTURAL = Set.of(
            "SIMPLE",
            "BITPIX",
            "NAXIS",
            "NAXIS1",
            "NAXIS2",
            "NAXIS3",
            "NAXIS4",
            "EXTEND",
            "BZERO",
            "BSCALE",
            "BLANK",
            "PCOUNT",
            "GCOUNT",
            "XTENSION",
            "END",
            "CHECKSUM",
            "DATASUM",
            "",
            "COMMENT",
            "HISTORY",
            "CONTINUE",
            "ZIMAGE",
            "ZBITPIX",
            "ZNAXIS",
            "ZNAXIS1",
            "ZNAXIS2",
            "ZCMPTYPE",
            "ZTILE1",
            "ZTILE2",
            "ZNAXIS3",
            "ZTILE3",
            "ZNAME1",
            "ZVAL1",
            "ZNAME2",
            "ZVAL2",
            "ZQUANTIZ",
            "ZDITHER0",
            "ZBLANK",
            "ZSCALE",
            "ZZERO",
            "ZEXTEND",
            "ZSIMPLE",
            "ZPCOUNT",
            "ZGCOUNT",
            "ZHECKSUM",
            "ZDATASUM",
            "TTYPE1",
            "TFORM1",
            "TTYPE2",
            "TFORM2",
            "TTYPE3",
            "TFORM3",
            "THEAP",
            "TFIELDS");

    private static final long MOST_PIXELS = 500_000_000;

    private static final float UNSIGNED_ZERO = 32_768f;

    private FitsFiles() {}

    /** Whether a keyword describes the file and not the picture. */
    static boolean isStructural(String keyword) {
        return STRUCTURAL.contains(keyword);
    }

    /**
     * Reads the first image of a file; of a colour cube the mean of its planes.
     *
     * @return pixels in physical values (BZERO, BSCALE and BLANK applied)
     * @throws BadInputException if it is missing, truncated or holds no image; the message names the file
     */
    public static Frame read(Path file) {
        if (!Files.isRegularFile(file)) {
            throw new BadInputException(file.toString(), "there is no such file", "the path of a FITS image");
        }
        HeaderClaims.check(file, "a FITS file with a picture, not cut short");
        try (Fits fits = new Fits(file.toFile())) {
            for (BasicHDU<?> hdu = fits.readHDU(); hdu != null; hdu = fits.readHDU()) {
                if (hdu instanceof ImageHDU image && image.getAxes() != null && image.getAxes().length >= 2) {
                    return frame(file, image);
                }
                if (hdu instanceof CompressedImageHDU packed) {
                    return frame(file, packed.asImageHDU());
                }
            }
        } catch (IOException | RuntimeException e) {
            if (e instanceof BadInputException bad) {
                throw bad;
            }
            throw new BadInputException(
                    file.toString(),
                    "is not a whole FITS image (" + e.getMessage() + ")",
                    "a FITS file, not cut short",
                    e);
        }
        throw new BadInputException(file.toString(), "holds no image", "a FITS file with a picture of 2 or 3 axes");
    }

    /**
     * Holds what the headers of a FITS file claim against the file, for whoever reads it otherwise.
     *
     * @throws BadInputException naming the file
     */
    public static void checkClaims(Path file, String expected) {
        HeaderClaims.check(file, expected);
    }

    private static Frame frame(Path file, ImageHDU image) throws FitsException {
        int[] axes = image.getAxes();
        int height = axes[axes.length - 2];
        int width = axes[axes.length - 1];
        nom.tam.fits.Header cards = image.getHeader();
        if ((long) width * height > MOST_PIXELS) {
            throw new BadInputException(
                    file.toString(),
                    "is " + width + " by " + height + " pixels",
                    "a picture of at most " + MOST_PIXELS / 1_000_000 + " megapixels");
        }
        if (width < 1 || height < 1) {
            throw new BadInputException(file.toString(), "holds an empty image", "at least one pixel");
        }
        double zero = cards.getDoubleValue("BZERO", 0);
        double scale = cards.getDoubleValue("BSCALE", 1);
        Long blank = cards.containsKey("BLANK") ? Long.valueOf(cards.getLongValue("BLANK")) : null;
        float[] pixels = new float[width * height];
        int planes = addPlanes(image.getData().getData(), pixels, width, new Scaling(zero, scale, blank));
        if (planes == 0) {
            throw new BadInputException(file.toString(), "holds an empty image", "at least one pixel");
        }
        if (planes > 1) {
            for (int i = 0; i < pixels.length; i++) {
                pixels[i] /= planes;
            }
        }
        return new Frame(width, height, pixels, header(cards));
    }

    /**
     * Reads a cube's planes, each a frame of its own; of a plain image the one.
     *
     * @throws BadInputException as {@link #read}
     */
    public static List<Frame> readPlanes(Path file) {
        int planes = FrameHead.read(file).planes();
        if (planes == 1) {
            return List.of(read(file));
        }
        try (Fits fits = new Fits(file.toFile())) {
            for (BasicHDU<?> hdu = fits.readHDU(); hdu != null; hdu = fits.readHDU()) {
                ImageHDU image = hdu instanceof CompressedImageHDU packed
                        ? packed.asImageHDU()
                        : hdu instanceof ImageHDU plain ? plain : null;
                if (image != null && image.getAxes() != null && image.getAxes().length == 3) {
                    return planes(file, image);
                }
            }
        } catch (IOException | RuntimeException e) {
            throw new BadInputException(
                    file.toString(),
                    "is not a whole FITS image (" + e.getMessage() + ")",
                    "a FITS file, not cut short",
                    e);
        }
        throw new BadInputException(file.toString(), "holds no cube of planes", "a FITS image of 2 or 3 axes");
    }

    private static List<Frame> planes(Path file, ImageHDU image) {
        int[] axes = image.getAxes();
        nom.tam.fits.Header cards = image.getHeader();
        Scaling scaling = new Scaling(
                cards.getDoubleValue("BZERO", 0),
                cards.getDoubleValue("BSCALE", 1),
                cards.containsKey("BLANK") ? Long.valueOf(cards.getLongValue("BLANK")) : null);
        List<Frame> planes = new ArrayList<>();
        for (Object plane : (Object[]) image.getData().getData()) {
            float[] pixels = new float[axes[1] * axes[2]];
            if (addPlanes(plane, pixels, axes[2], scaling) == 0) {
                throw new BadInputException(file.toString(), "holds an empty image", "at least one pixel");
            }
            planes.add(new Frame(axes[2], axes[1], pixels, header(cards)));
        }
        return planes;
    }

    private record Scaling(double zero, double scale, Long blank) {
        float physical(long stored) {
            return blank != null && stored == blank ? Float.NaN : (float) (zero + scale * stored);
        }
    }

    /** Adds every plane of a 2- or more-dimensional array to {@code sum}; returns how many there were. */
    private static int addPlanes(Object data, float[] sum, int width, Scaling scaling) {
        if (data instanceof Object[] rows && rows.length > 0 && !(rows[0] instanceof Object[])) {
            for (int row = 0; row < rows.length; row++) {
                addRow(rows[row], sum, row * width, scaling);
            }
            return 1;
        }
        int planes = 0;
        if (data instanceof Object[] deeper) {
            for (Object part : deeper) {
                planes += addPlanes(part, sum, width, scaling);
            }
        }
        return planes;
    }

    private static void addRow(Object row, float[] sum, int from, Scaling s) {
        if (row instanceof short[] shorts) {
            for (int i = 0; i < shorts.length; i++) {
                sum[from + i] += s.physical(shorts[i]);
            }
        } else if (row instanceof byte[] bytes) {
            for (int i = 0; i < bytes.length; i++) {
                sum[from + i] += s.physical(bytes[i] & 0xff);
            }
        } else if (row instanceof int[] ints) {
            for (int i = 0; i < ints.length; i++) {
                sum[from + i] += s.physical(ints[i]);
            }
        } else if (row instanceof long[] longs) {
            for (int i = 0; i < longs.length; i++) {
                sum[from + i] += s.physical(longs[i]);
            }
        } else if (row instanceof float[] floats) {
            for (int i = 0; i < floats.length; i++) {
                sum[from + i] += (float) (s.zero() + s.scale() * floats[i]);
            }
        } else if (row instanceof double[] doubles) {
            for (int i = 0; i < doubles.length; i++) {
                sum[from + i] += (float) (s.zero() + s.scale() * doubles[i]);
            }
        }
    }

    static Header header(nom.tam.fits.Header cards) {
        Header header = Header.EMPTY;
        Cursor<String, HeaderCard> cursor = cards.iterator();
        while (cursor.hasNext()) {
            HeaderCard card = cursor.next();
            if ("HISTORY".equals(card.getKey()) && card.getComment() != null) {
                header = header.withHistory(card.getComment());
            } else if (card.isKeyValuePair() && !STRUCTURAL.contains(card.getKey()) && card.getValue() != null) {
                header = header.with(card.getKey(), value(card));
            }
        }
        return header;
    }

    private static Object value(HeaderCard card) {
        Class<?> type = card.valueType();
        if (type == Boolean.class) {
            return card.getValue(Boolean.class, false);
        }
        if (type == Integer.class || type == Long.class) {
            return card.getValue(Long.class, 0L);
        }
        if (Number.class.isAssignableFrom(type)) {
            return card.getValue(Double.class, 0.0);
        }
        return card.getValue();
    }

    /**
     * Writes an image. Its folder must exist.
     *
     * @throws UncheckedIOException if the disk refuses; nothing is then left behind
     */
    public static void write(Path file, Frame frame, Encoding encoding) {
        AtomicFile.write(file, out -> write(out, frame, encoding));
    }

    /**
     * Writes planes of one size as a cube of 32-bit floats, for instance red, green and blue; a single one as a plain image. The header is
     * the first plane's.
     *
     * @throws UncheckedIOException if the disk refuses; nothing is then left behind
     */
    public static void writePlanes(Path file, List<Frame> planes) {
        if (planes.size() == 1) {
            write(file, planes.get(0), Encoding.FLOAT_32);
            return;
        }
        writePlanes(file, planes.size(), planes::get);
    }

    /** The same of planes that are made one after the other, as they are asked for. */
    public static void writePlanes(Path file, int count, IntFunction<Frame> planes) {
        AtomicFile.write(file, out -> write(out, count, planes, Encoding.FLOAT_32));
    }

    private static void write(OutputStream out, Frame frame, Encoding encoding) throws IOException {
        write(out, 1, plane -> frame, encoding);
    }

    /** The header by the library, the pixels row by row: the library would copy a large picture once more into memory. */
    private static void write(OutputStream out, int count, IntFunction<Frame> planes, Encoding encoding)
            throws IOException {
        Frame frame = planes.apply(0);
        Disk disk = new Disk(out);
        try {
            BasicHDU<?> hdu = FitsFactory.hduFactory(likeOne(encoding, count > 1));
            nom.tam.fits.Header cards = hdu.getHeader();
            cards.setNaxis(1, frame.width());
            cards.setNaxis(2, frame.height());
            if (count > 1) {
                cards.setNaxis(3, count);
            }
            if (encoding == Encoding.UNSIGNED_16) {
                cards.addValue("BZERO", UNSIGNED_ZERO, "stored values are unsigned");
                cards.addValue("BSCALE", 1, "");
            }
            for (Map.Entry<String, Object> entry : frame.header().values().entrySet()) {
                addIfPossible(cards, entry.getKey(), entry.getValue());
            }
            for (String line : frame.header().history()) {
                cards.insertHistory(plain(line));
            }
            try (Fits fits = new Fits()) {
                fits.addHDU(hdu);
                FitsOutputStream stream = new FitsOutputStream(disk);
                cards.write(stream);
                stream.flush();
            }
            long bytes = 0;
            for (int plane = 0; plane < count; plane++) {
                bytes += pixels(disk, plane == 0 ? frame : planes.apply(plane), encoding);
            }
            // A FITS file is made of blocks (FITS standard 4.0, section 3.1).
            disk.write(new byte[(int) ((BLOCK - bytes % BLOCK) % BLOCK)]);
            disk.flush();
        } catch (FitsException e) {
            if (disk.refused != null) {
                throw disk.refused;
            }
            throw new IllegalStateException("the header cannot be written as FITS: " + e.getMessage(), e);
        }
    }

    /** The smallest picture of a kind. */
    private static Object likeOne(Encoding encoding, boolean cube) {
        return switch (encoding) {
            case UNSIGNED_16 -> new short[1][1];
            case FLOAT_32 -> cube ? new float[1][1][1] : new float[1][1];
        };
    }

    private static long pixels(OutputStream out, Frame frame, Encoding encoding) throws IOException {
        int size = encoding == Encoding.UNSIGNED_16 ? Short.BYTES : Float.BYTES;
        ByteBuffer row = ByteBuffer.allocate(frame.width() * size);
        for (int y = 0; y < frame.height(); y++) {
            row.clear();
            if (encoding == Encoding.UNSIGNED_16) {
                for (int x = 0; x < frame.width(); x++) {
                    row.putShort(stored(frame.pixels()[y * frame.width() + x]));
                }
            } else {
                row.asFloatBuffer().put(frame.pixels(), y * frame.width(), frame.width());
            }
            out.write(row.array(), 0, row.capacity());
        }
        return (long) frame.height() * row.capacity();
    }

    /** Remembers what the disk said: the library throws an error of its own in its place, without the cause. */
    private static final class Disk extends FilterOutputStream {
        private IOException refused;

        Disk(OutputStream out) {
            super(out);
        }

        @Override
        public void flush() throws IOException {
            try {
                out.flush();
            } catch (IOException e) {
                refused = e;
                throw e;
            }
        }

        @Override
        public void write(int b) throws IOException {
            write(new byte[] {(byte) b}, 0, 1);
        }

        @Override
        public void write(byte[] bytes, int from, int count) throws IOException {
            try {
                out.write(bytes, from, count);
            } catch (IOException e) {
                refused = e;
                throw e;
            }
        }
    }

    /** What another program's header holds and the standard does not, is named in a HISTORY line: the picture matters more. */
    private static void addIfPossible(nom.tam.fits.Header cards, String keyword, Object value) {
        try {
            add(cards, keyword, value);
            HeaderCard card = cards.findCard(keyword);
            if (card != null) {
                // Some faults show only when the card is written out.
                Check.atLeast("length of the card " + keyword, card.toString().length(), 80);
            }
        } catch (RuntimeException e) {
            cards.deleteKey(keyword);
            cards.insertHistory(plain("left out " + keyword + ", which cannot be written as a FITS card"));
        }
    }

    private static void add(nom.tam.fits.Header cards, String keyword, Object value) throws FitsException {
        if (value instanceof Boolean b) {
            cards.addValue(keyword, b, null);
        } else if (value instanceof Long l) {
            cards.addValue(keyword, l, null);
        } else if (value instanceof Number n) {
            // The standard has no way to write that a number is none; a keyword that is missing says it.
            if (Double.isFinite(n.doubleValue())) {
                cards.addValue(keyword, n.doubleValue(), null);
            }
        } else {
            cards.addValue(keyword, plain(value.toString()), null);
        }
    }

    /** Headers hold printable ASCII only (section 4.2.1.1): accents go, other letters become question marks. */
    private static String plain(String text) {
        return Normalizer.normalize(text, Normalizer.Form.NFD)
                .replaceAll("\\p{M}+", "")
                .replaceAll("\\p{Cntrl}", " ")
                .replaceAll("[^\\x20-\\x7E]", "?");
    }

    private static short stored(float value) {
        return (short) (Math.min(65_535, Math.max(0, Math.round(value))) - 32_768);
    }
}
