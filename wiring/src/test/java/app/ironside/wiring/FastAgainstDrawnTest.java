package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.guide.GuideSample;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.Logbook;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.hipparchus.stat.inference.KolmogorovSmirnovTest;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * The same nights with pixels and without: what is kept of them, and how they guided, are of one distribution (two-sample test of Kolmogorov
 * and Smirnov, level 0.1 %: so many comparisons are made that at 1 % an honest one would fail now and then). Kept subs are counted, and may
 * differ by their own scatter.
 */
class FastAgainstDrawnTest {
    private static final double LEVEL = 0.001;

    private static final int NIGHTS = Integer.getInteger("fast.nights", 1);

    private static final boolean ALL_KITS = NIGHTS > 1;

    /** Where the table of docs/FASTNIGHTS.md is written, by hand. */
    private static final String FILE = System.getProperty("fast.table", "");

    private static final String HEAD =
            """
            # Nights without pixels beside the same nights with them

            An hour and a half of M 33 under the weather and with the mishaps of a year's seeds, with a small sensor. Of all nights of a kit
            together: subs kept of those taken, the middle of the subs' half-flux radius and sky, and of every guide exposure's error; p is
            that of the two-sample test of Kolmogorov and Smirnov on the errors. Made by one command, which fails at p < 0.001:

            ```
            mvn -pl wiring -am test -Dtest=FastAgainstDrawnTest -Dsurefire.failIfNoSpecifiedTests=false "-Dtest.jvm.options=-Xmx3g -Dfast.nights=20 -Dfast.table=$PWD/docs/FASTNIGHTS.md"
            ```

            | kit | nights | kept without | kept with | radius without | with | guiding without | with | p |
            |---|---|---|---|---|---|---|---|---|
            """;

    private static final List<String> TABLE = new ArrayList<>();

    @TempDir
    Path folder;

    private final Wiring wiring = new Wiring(Workers.ALL_CORES);

    /** What was gathered of the nights of one kind. */
    private static final class Gathered {
        private final List<Double> radii = new ArrayList<>();
        private final List<Double> guiding = new ArrayList<>();
        private int taken;
        private int kept;

        /** Takes each guide exposure as it comes. */
        NightWatcher watcher() {
            return new NightWatcher() {
                @Override
                public void guided(GuideSample sample) {
                    guiding.add(Math.hypot(sample.raArcsec(), sample.decArcsec()));
                }
            };
        }

        void add(NightState night) {
            taken += night.subs().size();
            kept += night.kept();
            night.subs().stream()
                    .filter(SubTaken::kept)
                    .forEach(s -> s.measures().hfrPx().ifPresent(radii::add));
        }

        double middle(List<Double> values) {
            double[] sorted = array(values);
            java.util.Arrays.sort(sorted);
            return sorted.length == 0 ? Double.NaN : sorted[sorted.length / 2];
        }

        static double[] array(List<Double> values) {
            return values.stream().mapToDouble(Double::doubleValue).toArray();
        }
    }

    private NightFile night(String kit) throws Exception {
        ObjectNode night = FaultsTest.document(kit);
        if (!ALL_KITS) {
            // Half as long, where it is not the table that is made.
            ((ObjectNode) night.at("/program/targets/0")).put("until", "22:25:00");
        }
        if (kit.equals("wren")) {
            // The kit's own pixels: how well a star is found in them is what is compared.
            ((ObjectNode) night.at("/kit/guider"))
                    .put("widthPx", 960)
                    .put("heightPx", 720)
                    .put("pixelUm", 3.75);
        }
        if (kit.equals("heron")) {
            ((ObjectNode) night.at("/kit/sensor")).put("widthPx", 1200).put("heightPx", 900);
        }
        return NightFile.parse(new ObjectMapper().writeValueAsString(night), kit + ".json", wiring.objects());
    }

    static Stream<String> kits() {
        return ALL_KITS ? Stream.of("wren", "lark", "heron") : Stream.of("wren");
    }

    @ParameterizedTest
    @MethodSource("kits")
    void areOfOneDistribution(String kit) throws Exception {
        Gathered fast = new Gathered();
        Gathered drawn = new Gathered();
        for (int seed = 1; seed <= NIGHTS; seed++) {
            NightFile file = ManyNights.drawn(night(kit), seed);
            JournalInMemory journal = new JournalInMemory();
            wiring.swift(file, journal, SteppedClock::new, fast.watcher(), new NightControl())
                    .engine()
                    .run();
            fast.add(NightState.of(journal.events()));
            try (Logbook logbook = Logbook.open(Files.createDirectories(folder.resolve(kit + seed)))) {
                NightRun run = wiring.rehearsal(
                        file, logbook, logbook.begin(kit, "night", file.text()), SteppedClock::new, drawn.watcher());
                run.engine().run();
                drawn.add(NightState.of(run.journal().events()));
            }
        }
        double p = fast.guiding.size() < 2 || drawn.guiding.size() < 2
                ? 1
                : new KolmogorovSmirnovTest()
                        .kolmogorovSmirnovTest(Gathered.array(fast.guiding), Gathered.array(drawn.guiding));
        TABLE.add(String.format(
                Locale.ROOT,
                "| %s | %d | %d of %d | %d of %d | %.2f px | %.2f px | %.2f″ | %.2f″ | %.3f |",
                kit,
                NIGHTS,
                fast.kept,
                fast.taken,
                drawn.kept,
                drawn.taken,
                fast.middle(fast.radii),
                drawn.middle(drawn.radii),
                fast.middle(fast.guiding),
                drawn.middle(drawn.guiding),
                p));
        assertThat(drawn.taken).isPositive();
        assertThat(p).as(TABLE.get(TABLE.size() - 1)).isGreaterThan(LEVEL);
        assertThat((double) fast.kept)
                .as(TABLE.get(TABLE.size() - 1))
                .isBetween(
                        drawn.kept - 4 * Math.sqrt(drawn.taken) / 2 - 1,
                        drawn.kept + 4 * Math.sqrt(drawn.taken) / 2 + 1);
        assertThat(fast.middle(fast.radii))
                .as(TABLE.get(TABLE.size() - 1))
                .isBetween(0.85 * drawn.middle(drawn.radii), 1.15 * drawn.middle(drawn.radii));
    }

    @AfterAll
    static void writeTheTable() throws Exception {
        if (!FILE.isEmpty()) {
            Files.writeString(Path.of(FILE), HEAD + String.join("\n", TABLE) + "\n");
        }
    }
}
