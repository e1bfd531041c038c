package app.ironside.cli;

import app.ironside.darkroom.Darkroom;
import app.ironside.stack.Rejection;
import java.lang.management.ManagementFactory;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.Set;
import picocli.CommandLine.Option;

/** How lights are stacked. */
final class StackOptions {
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
                    "Beside each stack a cube of what every pixel is made of: subs, share left out, weight, noise to be expected.")
    private boolean maps;

    @Option(
            names = "--max-memory",
            paramLabel = "MB",
            defaultValue = "600",
            description =
                    "Memory for the bands of lights that are combined at one time, megabytes (default 600); masters, the stack and"
                            + " the star search of whole frames come on top.")
    private long maxMemory;

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

    long maxMemoryBytes() {
        if (maxMemory < 16 || maxMemory > 1 << 20) {
            throw Verb.badOption("--max-memory", "is " + maxMemory, "megabytes, 16 to 1048576");
        }
        return maxMemory << 20;
    }

    /** Of the Java machine so far. */
    static double peakMemoryMb() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                        .mapToLong(pool -> pool.getPeakUsage().getUsed())
                        .sum()
                / 1e6;
    }
}
