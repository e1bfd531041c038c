package app.ironside.cli;

import app.ironside.darkroom.Darkroom;
import app.ironside.stack.Drizzle;
import app.ironside.stack.Rejection;
import app.ironside.stack.StackSettings;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import picocli.CommandLine.Option;

/** How lights are stacked. */
final class StackOptions {
    private static final long LEAST_MB = 300;
    private static final long MOST_MB = 1 << 20;

    @Option(
            names = "--reject",
            paramLabel = "NAME",
            defaultValue = "winsorized",
            description = "none, sigma, winsorized, linear-fit, percentile or min-max (default winsorized).")
    private String reject;

    @Option(names = "--keep-all", description = "Keep every light with stars of the field.")
    private boolean keepAll;

    @Option(
            names = "--crop",
            description = "Cut to the rectangle that nearly all lights reach; one for all filters of a target.")
    private boolean crop;

    @Option(
            names = "--maps",
            description =
                    "Beside each stack a cube of what every pixel is made of: subs, share left out, weight, noise to be expected. Takes as much memory more as two stacks.")
    private boolean maps;

    @Option(
            names = "--drizzle",
            paramLabel = "SCALE",
            description =
                    "Lay pixels as drops onto a grid this many times as fine, 1 to 4, instead of interpolating; for many dithered lights with narrow stars.")
    private Double drizzle;

    @Option(
            names = "--drop",
            paramLabel = "SIDE",
            description = "Side of a drop in pixels of the light, 0.1 to 1 (default 1.4 / SCALE, at least 0.5).")
    private Double drop;

    /** The launcher reads it too and gives the Java machine no more than that. */
    @Option(
            names = "--max-memory",
            paramLabel = "MB",
            description = {
                "What the whole process may take, the Java machine included, megabytes, from 300.",
                "Without it as much as IRONSIDE_MEMORY allows (3g)."
            })
    private Long maxMemory;

    Rejection rejection() {
        return Arrays.stream(Rejection.values())
                .filter(r -> r.word().equals(reject))
                .findFirst()
                .orElseThrow(() -> Verb.badOption(
                        "--reject",
                        "is \"" + reject + "\"",
                        String.join(
                                ", ",
                                Arrays.stream(Rejection.values())
                                        .map(Rejection::word)
                                        .toList())));
    }

    /** By drops, if it was asked for. */
    Optional<Drizzle> drizzle() {
        if (drizzle == null) {
            if (drop != null) {
                throw Verb.badOption("--drop", "is given without --drizzle", "--drizzle 2 --drop " + drop);
            }
            return Optional.empty();
        }
        if (maps) {
            throw Verb.badOption(
                    "--maps", "is given with --drizzle", "one of both: maps are of the interpolated stack");
        }
        if (!(drizzle >= 1 && drizzle <= 4)) {
            throw Verb.badOption("--drizzle", "is " + drizzle, "1 to 4");
        }
        if (drop != null && !(drop >= 0.1 && drop <= 1)) {
            throw Verb.badOption("--drop", "is " + drop, "0.1 to 1");
        }
        Drizzle usual = Drizzle.usual(drizzle);
        return Optional.of(drop == null ? usual : new Drizzle(drizzle, drop));
    }

    /** What is made beside the stacks. */
    Set<Darkroom.Extra> extras() {
        Set<Darkroom.Extra> wanted = EnumSet.noneOf(Darkroom.Extra.class);
        if (crop) {
            wanted.add(Darkroom.Extra.CROP);
        }
        if (maps) {
            wanted.add(Darkroom.Extra.MAPS);
        }
        return wanted;
    }

    boolean crop() {
        return crop;
    }

    boolean maps() {
        return maps;
    }

    boolean keepAll() {
        return keepAll;
    }

    /** For pixels: never more than the Java machine was given. */
    long maxMemoryBytes() {
        if (maxMemory == null) {
            return StackSettings.USUAL_MEMORY_BYTES;
        }
        if (maxMemory < LEAST_MB || maxMemory > MOST_MB) {
            throw Verb.badOption("--max-memory", "is " + maxMemory, "megabytes, " + LEAST_MB + " to " + MOST_MB);
        }
        return Math.min(maxMemory << 20, Runtime.getRuntime().maxMemory());
    }

    /** The most that this process has taken so far, as the system counts it; where it does not tell, as the Java machine does. */
    static double peakMemoryMb() {
        try (Stream<String> lines = Files.lines(Path.of("/proc/self/status"))) {
            return lines.filter(l -> l.startsWith("VmHWM:"))
                    .mapToDouble(l -> Double.parseDouble(l.replaceAll("[^0-9]", "")) * 1024 / 1e6)
                    .findFirst()
                    .orElseGet(StackOptions::heapPeakMb);
        } catch (IOException | UncheckedIOException e) {
            return heapPeakMb();
        }
    }

    private static double heapPeakMb() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                        .mapToLong(pool -> pool.getPeakUsage().getUsed())
                        .sum()
                / 1e6;
    }
}
