package app.ironside.cli;

import app.ironside.stack.Rejection;
import java.lang.management.ManagementFactory;
import java.util.Arrays;
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
