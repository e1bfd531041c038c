package app.ironside.library;

import app.ironside.image.AtomicFile;
import app.ironside.image.FrameHead;
import app.ironside.image.Header;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Heads of frames that were read before, so that a folder of thousands is there at once the next time. A file that has another size or time
 * of change is read anew, and so is one that could not be read. What is damaged or cannot be written costs time and nothing else: it is made
 * anew. Thread-safe.
 */
public final class HeadShelf {
    /** Reads every head from its file. */
    public static final HeadShelf NONE = new HeadShelf(Optional.empty(), Clock.systemUTC());

    private static final Logger LOG = LoggerFactory.getLogger(HeadShelf.class);
    private static final String NAME = "heads.gz";
    private static final int FORMAT = 0x49480001;

    /** Fewer are read as quickly as the shelf. */
    private static final int WORTH_KEEPING = 200;

    /** More would fill the memory when they are read; those that were asked for last are kept. */
    private static final int MOST_KEPT = 40_000;

    /** What nobody asked for in so long is forgotten. */
    private static final int DAYS_KEPT = 180;

    /** Within the grain of file systems' clocks a file may change and look as it did. */
    private static final long STILL_CHANGING_MILLIS = 3000;

    private final Optional<Path> file;
    private final Clock clock;
    private final Map<Path, Kept> heads = new ConcurrentHashMap<>();
    private boolean read;

    /** Whether the disk does not have what is here. */
    private volatile boolean news;

    /** @param day of the epoch on which it was asked for last */
    private record Kept(long bytes, long changedMillis, int day, FrameHead head) {}

    private HeadShelf(Optional<Path> file, Clock clock) {
        this.file = file;
        this.clock = clock;
    }

    /**
     * Kept in a user's folder.
     *
     * @param clock that tells what has just been changed, and what nobody asked for in long
     */
    public static HeadShelf in(Path data, Clock clock) {
        return new HeadShelf(Optional.of(data.resolve(NAME)), clock);
    }

    /**
     * A frame's head, without HISTORY where it was kept.
     *
     * @throws app.ironside.BadInputException as {@link FrameHead#read}
     */
    FrameHead of(Path frame) {
        if (file.isEmpty()) {
            return FrameHead.read(frame);
        }
        Optional<BasicFileAttributes> now = attributes(frame);
        Kept kept = heads.get(frame);
        if (kept != null
                && now.isPresent()
                && kept.bytes == now.get().size()
                && kept.changedMillis == now.get().lastModifiedTime().toMillis()) {
            if (kept.day != today()) {
                heads.put(frame, new Kept(kept.bytes, kept.changedMillis, today(), kept.head));
                news = true;
            }
            return kept.head;
        }
        heads.remove(frame);
        FrameHead head = FrameHead.read(frame);
        now.filter(a -> clock.millis() - a.lastModifiedTime().toMillis() > STILL_CHANGING_MILLIS)
                .ifPresent(a -> {
                    heads.put(frame, new Kept(a.size(), a.lastModifiedTime().toMillis(), today(), head));
                    news = true;
                });
        return head;
    }

    private static Optional<BasicFileAttributes> attributes(Path frame) {
        try {
            return Optional.of(Files.readAttributes(frame, BasicFileAttributes.class));
        } catch (IOException e) {
            return Optional.empty(); // what is wrong is told by reading it
        }
    }

    private int today() {
        return (int) ChronoUnit.DAYS.between(Instant.EPOCH, clock.instant());
    }

    /** Takes what was kept before from the disk. */
    synchronized void open() {
        if (read || file.isEmpty()) {
            return;
        }
        read = true;
        if (!Files.exists(file.get())) {
            return;
        }
        Map<Path, Kept> kept = new LinkedHashMap<>();
        try (DataInputStream in = new DataInputStream(
                new BufferedInputStream(new GZIPInputStream(Files.newInputStream(file.get()), 1 << 16), 1 << 16))) {
            if (in.readInt() != FORMAT) {
                return; // of another version: made anew
            }
            for (int left = in.readInt(); left > 0; left--) {
                Path frame = file.get().getFileSystem().getPath(in.readUTF());
                kept.put(frame, new Kept(in.readLong(), in.readLong(), in.readInt(), head(in)));
            }
            heads.putAll(kept);
        } catch (IOException | RuntimeException e) {
            LOG.warn("{} is damaged and is made anew", file.get(), e);
        }
    }

    private static FrameHead head(DataInputStream in) throws IOException {
        int width = in.readInt();
        int height = in.readInt();
        int planes = in.readInt();
        Map<String, Object> cards = new LinkedHashMap<>();
        for (int left = in.readInt(); left > 0; left--) {
            String keyword = in.readUTF();
            cards.put(
                    keyword,
                    switch (in.readByte()) {
                        case 'T' -> in.readUTF();
                        case 'L' -> in.readLong();
                        case 'D' -> in.readDouble();
                        case 'B' -> in.readBoolean();
                        default -> throw new IOException("a card of no kind");
                    });
        }
        return new FrameHead(width, height, planes, Header.EMPTY.withAll(cards));
    }

    /** Keeps what was read on the disk, and no longer in memory; a shelf that cannot be written is not kept. */
    synchronized void keep() {
        if (file.isPresent() && news && heads.size() >= WORTH_KEEPING) {
            write();
        }
        heads.clear();
        read = false;
    }

    private void write() {
        int oldest = today() - DAYS_KEPT;
        List<Map.Entry<Path, Kept>> kept = heads.entrySet().stream()
                .filter(e -> e.getValue().day >= oldest)
                .sorted(Comparator.comparingInt(e -> -e.getValue().day))
                .limit(MOST_KEPT)
                .toList();
        try {
            Files.createDirectories(file.get().toAbsolutePath().getParent());
            AtomicFile.write(file.get(), to -> {
                GZIPOutputStream packed = new GZIPOutputStream(to, 1 << 16);
                DataOutputStream out = new DataOutputStream(new BufferedOutputStream(packed, 1 << 16));
                out.writeInt(FORMAT);
                out.writeInt(kept.size());
                for (Map.Entry<Path, Kept> each : kept) {
                    write(out, each.getKey(), each.getValue());
                }
                out.flush();
                packed.finish();
            });
            news = false;
        } catch (IOException | UncheckedIOException unwritable) {
            LOG.warn("heads of frames are not kept: {}", unwritable.getMessage());
        }
    }

    private static void write(DataOutputStream out, Path frame, Kept kept) throws IOException {
        out.writeUTF(frame.toString());
        out.writeLong(kept.bytes);
        out.writeLong(kept.changedMillis);
        out.writeInt(kept.day);
        out.writeInt(kept.head.width());
        out.writeInt(kept.head.height());
        out.writeInt(kept.head.planes());
        Map<String, Object> cards = kept.head.header().values();
        out.writeInt(cards.size());
        for (Map.Entry<String, Object> card : cards.entrySet()) {
            out.writeUTF(card.getKey());
            Object value = card.getValue();
            if (value instanceof Long number) {
                out.writeByte('L');
                out.writeLong(number);
            } else if (value instanceof Double number) {
                out.writeByte('D');
                out.writeDouble(number);
            } else if (value instanceof Boolean is) {
                out.writeByte('B');
                out.writeBoolean(is);
            } else {
                out.writeByte('T');
                out.writeUTF(value.toString());
            }
        }
    }
}
