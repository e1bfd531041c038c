package app.ironside.solve;

import app.ironside.Workers;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.IntBuffer;
import java.nio.ShortBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.Optional;
import java.util.function.IntConsumer;

/**
 * Patterns of the stars down to one magnitude, in the order of their buckets, so that those of like code lie together. Kept in one file
 * from run to run.
 */
final class PatternLevel {
    /** Edge of a cell in the space of codes. */
    private static final double CELL = 0.02;

    private static final double STEPS = 32_000;
    private static final long MAGIC = 0x49_52_4f_4e_50_41_54_03L;
    private static final int HEADER_BYTES = 32;
    private static final int CHUNK_STARS = 4096;
    private static final int CODE = FourStars.LENGTH;

    private final int bits;
    private final int[] bucketStart;
    private final int[] stars;
    private final short[] codes;

    private PatternLevel(int bits, int[] bucketStart, int[] stars, short[] codes) {
        this.bits = bits;
        this.bucketStart = bucketStart;
        this.stars = stars;
        this.codes = codes;
    }

    /**
     * Makes the patterns of each star with its neighbours, without those that the level before has.
     *
     * @param vectors unit vectors; the first {@code size} are this level's stars
     * @param before how many of them were the level before's: where all four are among these, they were neighbours there too
     * @param neighbours how many neighbours of a star enter its patterns
     */
    static PatternLevel build(double[][] vectors, int size, int before, int neighbours, Workers workers) {
        NearestStars nearest = new NearestStars(Arrays.copyOf(vectors, size));
        int chunks = (size + CHUNK_STARS - 1) / CHUNK_STARS;
        Part[] parts = new Part[chunks];
        workers.forEach(chunks, chunk -> {
            Part part = new Part();
            int until = Math.min(size, (chunk + 1) * CHUNK_STARS);
            for (int k = chunk * CHUNK_STARS; k < until; k++) {
                part.addPatternsOf(nearest.inOrder(k), nearest, vectors, before, neighbours);
            }
            parts[chunk] = part;
        });
        return ordered(parts);
    }

    /** Patterns of some of the stars, in the order in which they were found. */
    private static final class Part {
        private int[] stars = new int[4 * 1024];
        private short[] codes = new short[CODE * 1024];
        private int count;

        void addPatternsOf(int star, NearestStars nearest, double[][] vectors, int before, int neighbours) {
            int[] around = new int[neighbours];
            double[] code = new double[CODE];
            int[] four = new int[4];
            int n = nearest.nearest(star, around);
            for (int a = 0; a < n; a++) {
                for (int b = a + 1; b < n; b++) {
                    for (int c = b + 1; c < n; c++) {
                        four[0] = star;
                        four[1] = around[a];
                        four[2] = around[b];
                        four[3] = around[c];
                        if (Math.max(Math.max(star, around[a]), Math.max(around[b], around[c])) >= before
                                && FourStars.code(four, (s, axis) -> vectors[s][axis], 3, code)) {
                            add(four, code);
                        }
                    }
                }
            }
        }

        private void add(int[] four, double[] code) {
            if ((count + 1) * 4 > stars.length) {
                stars = Arrays.copyOf(stars, stars.length * 2);
                codes = Arrays.copyOf(codes, codes.length * 2);
            }
            System.arraycopy(four, 0, stars, count * 4, 4);
            for (int k = 0; k < CODE; k++) {
                codes[count * CODE + k] = (short) (code[k] * STEPS + 0.5);
            }
            count++;
        }
    }

    private static PatternLevel ordered(Part[] parts) {
        int total = Arrays.stream(parts).mapToInt(p -> p.count).sum();
        int bits = Math.max(4, 31 - Integer.numberOfLeadingZeros(Math.max(1, total)));
        int[] start = new int[(1 << bits) + 1];
        int[] cell = new int[CODE];
        int[][] bucketOf = new int[parts.length][];
        for (int p = 0; p < parts.length; p++) {
            bucketOf[p] = new int[parts[p].count];
            for (int i = 0; i < parts[p].count; i++) {
                for (int k = 0; k < CODE; k++) {
                    cell[k] = (int) (parts[p].codes[i * CODE + k] / STEPS / CELL);
                }
                bucketOf[p][i] = bucket(cell, bits);
                start[bucketOf[p][i] + 1]++;
            }
        }
        for (int b = 0; b < start.length - 1; b++) {
            start[b + 1] += start[b];
        }
        int[] next = start.clone();
        int[] stars = new int[total * 4];
        short[] codes = new short[total * CODE];
        for (int p = 0; p < parts.length; p++) {
            for (int i = 0; i < parts[p].count; i++) {
                int to = next[bucketOf[p][i]]++;
                System.arraycopy(parts[p].stars, i * 4, stars, to * 4, 4);
                System.arraycopy(parts[p].codes, i * CODE, codes, to * CODE, CODE);
            }
        }
        return new PatternLevel(bits, start, stars, codes);
    }

    private static int bucket(int[] cell, int bits) {
        int hash = 0;
        for (int c : cell) {
            hash = hash * 59 + c;
        }
        hash *= 0x9E3779B1;
        return hash >>> (32 - bits);
    }

    int size() {
        return stars.length / 4;
    }

    /** Index, among the vectors it was built of, of star {@code place} (0 to 3) of a pattern. */
    int star(int pattern, int place) {
        return stars[pattern * 4 + place];
    }

    /** Hands every pattern whose code differs by at most {@code tolerance} in each ratio to {@code each}. */
    void lookUp(double[] code, double tolerance, IntConsumer each) {
        int[] low = new int[CODE];
        int[] high = new int[CODE];
        for (int k = 0; k < CODE; k++) {
            low[k] = (int) (Math.max(0, code[k] - tolerance) / CELL);
            high[k] = (int) (Math.min(1, code[k] + tolerance) / CELL);
        }
        int[] cell = low.clone();
        while (true) {
            int bucket = bucket(cell, bits);
            for (int i = bucketStart[bucket]; i < bucketStart[bucket + 1]; i++) {
                if (near(i, code, tolerance)) {
                    each.accept(i);
                }
            }
            int k = 0;
            while (k < CODE && ++cell[k] > high[k]) {
                cell[k] = low[k];
                k++;
            }
            if (k == CODE) {
                return;
            }
        }
    }

    private boolean near(int pattern, double[] code, double tolerance) {
        for (int k = 0; k < CODE; k++) {
            if (Math.abs(codes[pattern * CODE + k] / STEPS - code[k]) > tolerance) {
                return false;
            }
        }
        return true;
    }

    /**
     * Writes the level beside its final name, then renames it: a file of that name is whole.
     *
     * @param fingerprint of the catalogue and the way the level was made
     */
    void write(Path file, long fingerprint) throws IOException {
        Path beside = file.resolveSibling(file.getFileName() + ".part");
        try (FileChannel out = FileChannel.open(
                beside, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.TRUNCATE_EXISTING)) {
            ByteBuffer header = ByteBuffer.allocate(HEADER_BYTES);
            header.putLong(MAGIC)
                    .putLong(fingerprint)
                    .putInt(bits)
                    .putInt(size())
                    .putLong(0)
                    .flip();
            writeAll(out, header);
            ByteBuffer piece = ByteBuffer.allocate(1 << 20);
            for (IntBuffer ints : new IntBuffer[] {IntBuffer.wrap(bucketStart), IntBuffer.wrap(stars)}) {
                while (ints.hasRemaining()) {
                    piece.clear();
                    while (ints.hasRemaining() && piece.remaining() >= 4) {
                        piece.putInt(ints.get());
                    }
                    writeAll(out, piece.flip());
                }
            }
            ShortBuffer shorts = ShortBuffer.wrap(codes);
            while (shorts.hasRemaining()) {
                piece.clear();
                while (shorts.hasRemaining() && piece.remaining() >= 2) {
                    piece.putShort(shorts.get());
                }
                writeAll(out, piece.flip());
            }
            out.force(true);
        }
        Files.move(beside, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    private static void writeAll(FileChannel out, ByteBuffer bytes) throws IOException {
        while (bytes.hasRemaining()) {
            out.write(bytes);
        }
    }

    /** Reads a level; empty if there is no such file, or it was made of another catalogue or in another way. */
    static Optional<PatternLevel> open(Path file, long fingerprint) {
        if (!Files.isReadable(file)) {
            return Optional.empty();
        }
        try (FileChannel in = FileChannel.open(file)) {
            ByteBuffer header = ByteBuffer.allocate(HEADER_BYTES);
            while (header.hasRemaining() && in.read(header) >= 0) {
                continue;
            }
            header.flip();
            if (header.remaining() < HEADER_BYTES || header.getLong() != MAGIC || header.getLong() != fingerprint) {
                return Optional.empty();
            }
            int bits = header.getInt();
            int patterns = header.getInt();
            long starts = 4L * ((1 << bits) + 1);
            long ints = 16L * patterns;
            long shorts = 2L * CODE * patterns;
            if (in.size() != HEADER_BYTES + starts + ints + shorts) {
                return Optional.empty();
            }
            int[] bucketStart = new int[(1 << bits) + 1];
            int[] stars = new int[4 * patterns];
            short[] codes = new short[CODE * patterns];
            FileChannel.MapMode only = FileChannel.MapMode.READ_ONLY;
            in.map(only, HEADER_BYTES, starts).asIntBuffer().get(bucketStart);
            in.map(only, HEADER_BYTES + starts, ints).asIntBuffer().get(stars);
            in.map(only, HEADER_BYTES + starts + ints, shorts).asShortBuffer().get(codes);
            return Optional.of(new PatternLevel(bits, bucketStart, stars, codes));
        } catch (IOException e) {
            return Optional.empty();
        }
    }
}
