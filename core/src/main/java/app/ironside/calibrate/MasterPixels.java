package app.ironside.calibrate;

import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.image.Header;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;

/** A master: in memory, or, where a few like it would fill the memory there is, read row by row whenever it is needed. */
public final class MasterPixels {
    /** A master that takes more of the memory than this share stays on the disk. */
    private static final int SHARE = 12;

    private final Optional<Frame> held;
    private final Optional<Path> file;
    private final int width;
    private final int height;
    private final Header header;

    private MasterPixels(Optional<Frame> held, Optional<Path> file, int width, int height, Header header) {
        this.held = held;
        this.file = file;
        this.width = width;
        this.height = height;
        this.header = header;
    }

    /** A master in memory. */
    public static MasterPixels of(Frame frame) {
        return new MasterPixels(Optional.of(frame), Optional.empty(), frame.width(), frame.height(), frame.header());
    }

    /**
     * That of a file, which must stay there.
     *
     * @throws app.ironside.BadInputException if it is no whole FITS image
     */
    public static MasterPixels in(Path file) {
        try (FitsBands bands = FitsBands.open(file)) {
            long bytes = (long) bands.width() * bands.height() * Float.BYTES;
            return bytes > Runtime.getRuntime().maxMemory() / SHARE ? onDisk(file, bands) : of(FrameFiles.read(file));
        }
    }

    static MasterPixels onDisk(Path file, FitsBands bands) {
        return new MasterPixels(Optional.empty(), Optional.of(file), bands.width(), bands.height(), bands.header());
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

    /** The whole picture; of a large one a copy that is to be let go. */
    public Frame frame() {
        return held.orElseGet(() -> FrameFiles.read(file.orElseThrow()));
    }

    /** A copy of some rows. */
    float[] rows(int firstRow, int rows) {
        try (Rows open = open()) {
            int from = open.offset(firstRow);
            return Arrays.copyOfRange(open.values(firstRow, rows), from, from + rows * width);
        }
    }

    /** For reading rows. */
    Rows open() {
        return new Rows(held.isPresent() ? Optional.empty() : file.map(FitsBands::open));
    }

    /** Rows of a master, while they are needed. */
    final class Rows implements AutoCloseable {
        private final Optional<FitsBands> bands;

        private Rows(Optional<FitsBands> bands) {
            this.bands = bands;
        }

        /** The array that holds some rows; they begin at {@link #offset}. */
        float[] values(int firstRow, int rows) {
            return bands.map(b -> b.rows(firstRow, rows))
                    .orElseGet(() -> held.orElseThrow().pixels());
        }

        int offset(int firstRow) {
            return bands.isPresent() ? 0 : firstRow * width;
        }

        @Override
        public void close() {
            bands.ifPresent(FitsBands::close);
        }
    }
}
