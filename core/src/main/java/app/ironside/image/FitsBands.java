package app.ironside.image;

import app.ironside.BadInputException;
import app.ironside.Check;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import nom.tam.fits.BasicHDU;
import nom.tam.fits.Fits;
import nom.tam.fits.ImageHDU;

/**
 * Reads bands of rows of a frame, so that large sets need never be in memory whole. Thread-safe.
 */
public final class FitsBands implements AutoCloseable {
    /** So much of a file is read at one time. */
    private static final int PIECE_BYTES = 1 << 20;

    private static final String EXPECTED = "a FITS image of 2 axes, not cut short";

    private final Path file;
    private final FileChannel channel;
    private final long dataStart;
    private final int bitpix;
    private final double zero;
    private final double scale;
    private final Optional<Long> blank;
    private final int width;
    private final int height;
    private final Header header;

    private FitsBands(Path file, ImageHDU image, FileChannel channel) {
        nom.tam.fits.Header cards = image.getHeader();
        this.file = file;
        this.channel = channel;
        this.dataStart = image.getData().getFileOffset();
        this.bitpix = cards.getIntValue("BITPIX");
        this.zero = cards.getDoubleValue("BZERO", 0);
        this.scale = cards.getDoubleValue("BSCALE", 1);
        this.blank = cards.containsKey("BLANK") ? Optional.of(cards.getLongValue("BLANK")) : Optional.empty();
        this.width = cards.getIntValue("NAXIS1");
        this.height = cards.getIntValue("NAXIS2");
        this.header = FitsFiles.header(cards);
    }

    private FitsBands(Path file, Frame frame, FileChannel unpacked) {
        this.file = file;
        this.channel = unpacked;
        this.dataStart = 0;
        this.bitpix = -32;
        this.zero = 0;
        this.scale = 1;
        this.blank = Optional.empty();
        this.width = frame.width();
        this.height = frame.height();
        this.header = frame.header();
    }

    /**
     * Opens a FITS or TIFF file. One that is packed, TIFF, or whose picture is not its first part, is unpacked to a file of the system's that is gone when
     * this is closed.
     *
     * @throws BadInputException if it holds no picture of two axes, or is cut short
     */
    public static FitsBands open(Path file) {
        if (!Files.isRegularFile(file)) {
            throw new BadInputException(file.toString(), "there is no such file", "the path of a FITS image");
        }
        if (FrameFiles.isTiff(file)) {
            return unpacked(file);
        }
        HeaderClaims.check(file, EXPECTED);
        try {
            return isPacked(file) ? unpacked(file) : plain(file).orElseGet(() -> unpacked(file));
        } catch (BadInputException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw new BadInputException(
                    file.toString(), "is not a whole FITS image (" + e.getMessage() + ")", EXPECTED, e);
        }
    }

    /** By its first two bytes (RFC 1952), whatever its name. */
    private static boolean isPacked(Path file) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            return in.read() == 0x1f && in.read() == 0x8b;
        }
    }

    /** Empty if the first part is not the picture. */
    private static Optional<FitsBands> plain(Path file) throws IOException {
        try (Fits fits = new Fits(file.toFile())) {
            BasicHDU<?> first = fits.readHDU();
            if (!(first instanceof ImageHDU image) || image.getAxes() == null || image.getAxes().length == 0) {
                return Optional.empty();
            }
            mustBeOnePicture(file, image.getAxes());
            FileChannel channel = FileChannel.open(file, StandardOpenOption.READ);
            FitsBands bands = new FitsBands(file, image, channel);
            long needed = bands.dataStart + (long) bands.width * bands.height * Math.abs(bands.bitpix) / 8;
            if (channel.size() < needed) {
                long size = channel.size();
                channel.close();
                throw new BadInputException(file.toString(), "has " + size + " of " + needed + " bytes", EXPECTED);
            }
            return Optional.of(bands);
        }
    }

    private static void mustBeOnePicture(Path file, int[] axes) {
        int planes = 1;
        for (int i = 0; i + 2 < axes.length; i++) {
            planes *= axes[i];
        }
        if (axes.length < 2 || planes != 1) {
            throw new BadInputException(
                    file.toString(),
                    axes.length < 2
                            ? "holds no picture of 2 axes"
                            : "holds " + planes + " pictures, one above the other",
                    EXPECTED);
        }
        if (axes[axes.length - 1] < 1 || axes[axes.length - 2] < 1) {
            throw new BadInputException(file.toString(), "holds an empty image", EXPECTED);
        }
    }

    private static FitsBands unpacked(Path file) {
        int planes = FrameHead.read(file).planes();
        mustBeOnePicture(file, planes == 1 ? new int[] {1, 1} : new int[] {planes, 1, 1});
        Frame frame = FrameFiles.read(file);
        try {
            Path store = Files.createTempFile("ironside-", ".unpacked");
            FileChannel channel = FileChannel.open(
                    store, StandardOpenOption.READ, StandardOpenOption.WRITE, StandardOpenOption.DELETE_ON_CLOSE);
            ByteBuffer row = ByteBuffer.allocate(frame.width() * Float.BYTES);
            for (int y = 0; y < frame.height(); y++) {
                row.clear();
                row.asFloatBuffer().put(frame.pixels(), y * frame.width(), frame.width());
                while (row.hasRemaining()) {
                    channel.write(row);
                }
            }
            return new FitsBands(file, frame, channel);
        } catch (IOException e) {
            throw new UncheckedIOException(
                    file + " cannot be unpacked (" + e.getMessage() + "); is the disk of temporary files full?", e);
        }
    }

    public Path file() {
        return file;
    }

    public int width() {
        return width;
    }

    public int height() {
        return height;
    }

    public Header header() {
        return header;
    }

    /**
     * The step between values, as the camera gave them: cameras of 12 or 14 bits write whole multiples of 16 or 4. Told by the first row
     * with more than one value.
     *
     * @return 0 for values that are no whole numbers, and for a picture of one value
     */
    public double quantum() {
        // What was unpacked lies here as floats, whatever the camera gave.
        double unit = bitpix < 0 ? 1 : Math.abs(scale);
        for (int row = 0; row < Math.min(height, 64); row++) {
            float[] values = rows(row, 1);
            long step = 0;
            for (float v : values) {
                if (bitpix < 0 && Float.isFinite(v) && v != Math.rint(v)) {
                    return 0;
                }
                if (Float.isFinite(v)) {
                    step = gcd(step, Math.round(Math.abs((v - values[0]) / unit)));
                }
            }
            if (step > 0) {
                return step * unit;
            }
        }
        return 0;
    }

    private static long gcd(long a, long b) {
        return b == 0 ? a : gcd(b, a % b);
    }

    /**
     * Reads rows from {@code firstRow} (from 0) on.
     *
     * @return {@code rows * width} physical values, NaN where blank
     * @throws UncheckedIOException naming the file if the disk fails
     */
    public float[] rows(int firstRow, int rows) {
        Check.inRange("firstRow", firstRow, 0, height - 1.0);
        Check.inRange("rows", rows, 1, height - (double) firstRow);
        int bytes = Math.abs(bitpix) / 8;
        float[] out = new float[rows * width];
        // Piece by piece: the bytes of a whole large frame would take as much memory again, and once more outside the
        // heap.
        int most = Math.max(1, PIECE_BYTES / (width * bytes));
        for (int row = 0; row < rows; row += most) {
            int count = Math.min(most, rows - row);
            piece((long) (firstRow + row) * width * bytes, count * width, out, row * width);
        }
        return out;
    }

    private void piece(long from, int values, float[] out, int first) {
        ByteBuffer buffer = ByteBuffer.allocate(values * Math.abs(bitpix) / 8);
        try {
            long at = dataStart + from;
            while (buffer.hasRemaining()) {
                int read = channel.read(buffer, at);
                if (read < 0) {
                    throw new IOException("it ends early");
                }
                at += read;
            }
        } catch (IOException e) {
            throw new UncheckedIOException(file + " could not be read: " + e.getMessage(), e);
        }
        buffer.flip();
        if (bitpix == 16 && blank.isEmpty()) {
            // What cameras write; a whole array at a time is several times as fast.
            short[] stored = new short[values];
            buffer.asShortBuffer().get(stored);
            for (int i = 0; i < values; i++) {
                out[first + i] = (float) (zero + scale * stored[i]);
            }
        } else if (bitpix == -32) {
            buffer.asFloatBuffer().get(out, first, values);
            for (int i = first; i < first + values && (zero != 0 || scale != 1); i++) {
                out[i] = (float) (zero + scale * out[i]);
            }
        } else {
            for (int i = 0; i < values; i++) {
                out[first + i] = value(buffer);
            }
        }
    }

    private float value(ByteBuffer buffer) {
        return switch (bitpix) {
            case -32 -> (float) (zero + scale * buffer.getFloat());
            case -64 -> (float) (zero + scale * buffer.getDouble());
            case 8 -> physical(buffer.get() & 0xff);
            case 16 -> physical(buffer.getShort());
            case 32 -> physical(buffer.getInt());
            default -> physical(buffer.getLong());
        };
    }

    private float physical(long stored) {
        return blank.isPresent() && blank.get() == stored ? Float.NaN : (float) (zero + scale * stored);
    }

    /** The whole picture. */
    public Frame frame() {
        return new Frame(width, height, rows(0, height), header);
    }

    @Override
    public void close() {
        try {
            channel.close();
        } catch (IOException e) {
            throw new UncheckedIOException(file + " could not be closed", e);
        }
    }
}
