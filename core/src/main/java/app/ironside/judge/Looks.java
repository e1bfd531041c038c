package app.ironside.judge;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.calibrate.Calibrator;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.image.Header;
import app.ironside.image.PixelNoise;
import app.ironside.library.FrameFacts;
import app.ironside.sky.Horizon;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.SunAndMoon;
import app.ironside.solve.PlaneTransform;
import app.ironside.solve.Registration;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/** Looks at files of lights: measures each, and finds how much of the series' light and field it has. */
public final class Looks {
    /** Another reference is tried if no more of the starry subs than this match the first. */
    private static final double MAJORITY = 0.5;

    /** Noise by blocks above that by pixels: resampling alone makes a tenth. */
    private static final double SMOOTHED = 0.08;

    private static final double SURE_ERRORS = 4;
    private static final int TRIES = 4;
    private static final int GRID = 16;

    private final StarSearch finder;

    public Looks(StarSearch finder) {
        this.finder = finder;
    }

    /**
     * A light, measured.
     *
     * @param pixelNoiseAdu of a background pixel, from pixel to pixel
     * @param blocks the same by blocks, coarser, but true of pictures that were smoothed or resampled too
     */
    public record Measured(
            Path file, FrameFacts facts, StarField field, double pixelNoiseAdu, BlockNoise.Measured blocks) {
        /** Of white noise from pixel to pixel, which is told most sharply; by blocks where those tell surely of more. */
        public double noiseAdu() {
            double error = 1.17 / Math.sqrt(Math.max(1, blocks.differences()));
            return blocks.noiseAdu() > pixelNoiseAdu * (1 + SMOOTHED + SURE_ERRORS * error)
                    ? blocks.noiseAdu()
                    : pixelNoiseAdu;
        }

        /** The same, at a place that is known where the header tells none. */
        public Measured at(Optional<Site> site) {
            return facts.place().isPresent() || site.isEmpty()
                    ? this
                    : new Measured(file, facts.at(site.get()), field, pixelNoiseAdu, blocks);
        }

        private String size() {
            return field.width() + "x" + field.height();
        }

        /** Soft or poor subs make poor references. */
        private double referenceCost() {
            return field.medianHalfFluxRadiusPx().orElse(99)
                    * (1 + field.medianEccentricity().orElse(1))
                    / Math.sqrt(Math.max(1, field.stars().size()));
        }

        private boolean starry() {
            return field.stars().size() >= SubLook.FEWEST_STARS;
        }
    }

    /** A light that cannot be used. */
    public record Unusable(Path file, String reason) {}

    /** What was found of some files. */
    public record Found(List<Measured> measured, List<Unusable> unusable) {}

    /** Measures files. One that cannot be read is named and the others go on. */
    public Found measure(List<Path> files, Calibrator calibrator, Progress progress) {
        List<Measured> measured = new ArrayList<>();
        List<Unusable> unusable = new ArrayList<>();
        for (int i = 0; i < files.size(); i++) {
            Path file = files.get(i);
            progress.step("measuring " + file.getFileName(), 0.9 * i / files.size());
            try {
                measured.add(measure(file, calibrator.calibrated(FrameFiles.read(file))));
            } catch (BadInputException e) {
                unusable.add(new Unusable(file, e.reasonFor(file.toString())));
            }
        }
        return new Found(measured, unusable);
    }

    /** Measures one frame that has been read. */
    public Measured measure(Path file, Frame frame) {
        Header header = frame.header();
        FrameFacts facts = FrameFacts.of(file, header, frame.width(), frame.height(), 1);
        StarField field = finder.find(frame);
        return new Measured(
                file,
                facts,
                field,
                PixelNoise.of(frame, facts.bayer().isPresent()),
                BlockNoise.of(
                        frame, field, facts.bayer().isPresent() ? BlockNoise.MOSAIC_BLOCK_PX : BlockNoise.BLOCK_PX));
    }

    /**
     * What lights show beside one another.
     *
     * @param looks in the order given
     * @param lies where each lies on the one that was taken for the reference; empty where its stars are not those of the series
     */
    public record Beside(List<SubLook> looks, List<Optional<PlaneTransform>> lies) {}

    /** What each shows beside the others, in the order given. */
    public static List<SubLook> of(List<Measured> all) {
        return beside(all).looks();
    }

    /** As above, with where they lie. */
    public static Beside beside(List<Measured> all) {
        Map<String, List<Measured>> sizes = new LinkedHashMap<>();
        all.forEach(m -> sizes.computeIfAbsent(m.size(), k -> new ArrayList<>()).add(m));
        Map<Measured, Placed> placed = new java.util.IdentityHashMap<>();
        sizes.values().forEach(group -> place(group, placed));
        return new Beside(
                all.stream().map(m -> look(m, placed.get(m))).toList(),
                all.stream().map(m -> placed.get(m).lies()).toList());
    }

    /** How a light lies on the reference. */
    private record Placed(OptionalDouble light, double overlap, Optional<PlaneTransform> lies) {
        private static final Placed NOWHERE = new Placed(OptionalDouble.empty(), 0, Optional.empty());
    }

    /** The field of most is the series' field: a wrong one is not known by coming second. */
    private static void place(List<Measured> group, Map<Measured, Placed> placed) {
        List<Measured> starry = new ArrayList<>(group.stream()
                .filter(Measured::starry)
                .sorted(Comparator.comparingDouble(Measured::referenceCost))
                .toList());
        group.forEach(m -> placed.put(m, Placed.NOWHERE));
        Map<Measured, Placed> best = Map.of();
        List<Measured> candidates = new ArrayList<>(starry);
        for (int attempt = 0; attempt < TRIES && !candidates.isEmpty(); attempt++) {
            Map<Measured, Placed> found = on(candidates.get(0), starry);
            best = found.size() > best.size() ? found : best;
            if (best.size() > MAJORITY * starry.size()) {
                break;
            }
            candidates.removeIf(found::containsKey);
        }
        placed.putAll(best);
    }

    private static Map<Measured, Placed> on(Measured reference, List<Measured> starry) {
        Map<Measured, Placed> found = new java.util.IdentityHashMap<>();
        for (Measured m : starry) {
            Optional<Registration> lies = m == reference
                    ? Optional.of(new Registration(
                            PlaneTransform.IDENTITY, m.field().stars().size(), 0, 1))
                    : Registration.of(reference.field(), m.field());
            lies.ifPresent(r -> found.put(
                    m,
                    new Placed(
                            OptionalDouble.of(r.fluxRatio()),
                            overlap(r.transform(), m.field()),
                            Optional.of(r.transform()))));
        }
        return found;
    }

    private static double overlap(PlaneTransform t, StarField field) {
        int inside = 0;
        for (int i = 0; i < GRID * GRID; i++) {
            double x = (i % GRID + 0.5) * field.width() / GRID;
            double y = ((double) (i / GRID) + 0.5) * field.height() / GRID;
            boolean in = t.x(x, y) >= 0.5
                    && t.x(x, y) <= field.width() + 0.5
                    && t.y(x, y) >= 0.5
                    && t.y(x, y) <= field.height() + 0.5;
            inside += in ? 1 : 0;
        }
        return inside / (double) (GRID * GRID);
    }

    private static SubLook look(Measured m, Placed placed) {
        FrameFacts facts = m.facts();
        Optional<Instant> time = facts.middle();
        Optional<SunAndMoon> sky = facts.place().map(p -> new SunAndMoon(Observer.at(p)));
        return new SubLook(
                m.file().toString(),
                series(m),
                time,
                facts.exposureS().orElse(1),
                m.field().stars().size(),
                m.field().medianHalfFluxRadiusPx().orElse(0),
                m.field().medianFwhmPx().orElse(0),
                m.field().medianEccentricity().orElse(0),
                m.field().backgroundAdu(),
                m.noiseAdu(),
                placed.light(),
                placed.overlap(),
                facts.altitudeDeg(),
                both(sky, time, (s, t) -> s.sun(t).altitudeDeg()),
                both(sky, time, (s, t) -> s.moon(t).altitudeDeg()),
                time.map(t -> OptionalDouble.of(
                                new SunAndMoon(Observer.at(facts.place().orElse(ANYWHERE))).moonIlluminatedFraction(t)))
                        .orElse(OptionalDouble.empty()));
    }

    /** The Moon's phase is the same to a hundredth wherever one stands. */
    private static final Site ANYWHERE = new Site("anywhere", 0, 0, 0, ZoneOffset.UTC, 20, Horizon.FLAT);

    private interface Reading {
        double of(SunAndMoon sky, Instant time);
    }

    private static OptionalDouble both(Optional<SunAndMoon> sky, Optional<Instant> time, Reading reading) {
        return sky.isPresent() && time.isPresent()
                ? OptionalDouble.of(reading.of(sky.get(), time.get()))
                : OptionalDouble.empty();
    }

    private static String series(Measured m) {
        FrameFacts f = m.facts();
        return String.join(
                "\n",
                m.size(),
                f.filter().map(s -> s.toLowerCase(Locale.ROOT)).orElse(""),
                f.exposureS().isPresent()
                        ? String.format(Locale.ROOT, "%.2e", f.exposureS().getAsDouble())
                        : "",
                f.gain().isPresent() ? "" + f.gain().getAsDouble() : "",
                f.binning().isPresent() ? "" + f.binning().getAsInt() : "");
    }
}
