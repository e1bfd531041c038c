package app.ironside.focus;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Where the middle and each corner of the field are in focus, as one sweep shows it: how far the sensor is tilted and the field curved, and
 * which position serves all.
 *
 * @param zones the middle first; corners in which enough stars showed
 * @param compromise where the mean square size of all zones is least, steps
 */
public record SweepZones(List<Zone> zones, double compromise) {
    /** Parts of the field. */
    public enum Part {
        MIDDLE("middle"),
        BOTTOM_LEFT("bottom left"),
        BOTTOM_RIGHT("bottom right"),
        TOP_LEFT("top left"),
        TOP_RIGHT("top right");

        private final String words;

        Part(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * A part of the field.
     *
     * @param position of its best focus, steps
     * @param sigma its standard error
     * @param sizePx half-flux radius there
     */
    public record Zone(Part part, double position, double sigma, double sizePx) {}

    /** Beyond this share of half the width and height from the middle a star is of a corner; nearer than half of it, of the middle. */
    private static final double CORNER = 0.5;

    private static final double MIDDLE = 0.35;
    private static final int FEWEST_STARS = 4;
    private static final int FEWEST_POINTS = 5;
    private static final double LEAST_SNR = 15;

    public SweepZones {
        zones = List.copyOf(zones);
    }

    /** Gathers the frames of a sweep. */
    public static final class Gathering {
        private final List<List<FocusSample>> samples = new ArrayList<>();

        public Gathering() {
            for (int i = 0; i < Part.values().length; i++) {
                samples.add(new ArrayList<>());
            }
        }

        /** @param binning of the frame: sizes are told in whole pixels */
        public void add(double position, StarField field, int binning) {
            for (Part part : Part.values()) {
                double[] sizes = field.stars().stream()
                        .filter(s -> !s.saturated() && s.snr() >= LEAST_SNR)
                        .filter(s -> partOf(s, field).filter(part::equals).isPresent())
                        .mapToDouble(s -> s.halfFluxRadiusPx() * binning)
                        .sorted()
                        .toArray();
                if (sizes.length >= FEWEST_STARS) {
                    double size = sizes[sizes.length / 2];
                    samples.get(part.ordinal())
                            .add(new FocusSample(position, size, 0.03 * size + 0.05 / Math.sqrt(sizes.length)));
                }
            }
        }

        /** What they show; empty unless the middle and at least one corner have a curve that is believed. */
        public Optional<SweepZones> zones() {
            List<Zone> zones = new ArrayList<>();
            List<double[]> curves = new ArrayList<>();
            for (Part part : Part.values()) {
                List<FocusSample> of = samples.get(part.ordinal());
                if (of.size() < FEWEST_POINTS) {
                    continue;
                }
                FocusVerdict verdict = FocusCurve.judge(of, FocusMethod.HYPERBOLA);
                if (verdict.accepted()) {
                    zones.add(new Zone(part, verdict.bestPosition(), verdict.positionSigma(), verdict.bestSize()));
                    curves.add(FocusCurve.fitHyperbola(of));
                }
            }
            return zones.size() < 2 || zones.get(0).part() != Part.MIDDLE
                    ? Optional.empty()
                    : Optional.of(new SweepZones(zones, compromise(curves)));
        }

        /** Of squares a² + b²(x − c)² the sum is least at the mean of the c, each weighted by its b². */
        private static double compromise(List<double[]> curves) {
            double weights = 0;
            double sum = 0;
            for (double[] abc : curves) {
                weights += abc[1] * abc[1];
                sum += abc[1] * abc[1] * abc[2];
            }
            return sum / weights;
        }
    }

    private static Optional<Part> partOf(Star star, StarField field) {
        double x = 2 * (star.x() - 0.5) / field.width() - 1;
        double y = 2 * (star.y() - 0.5) / field.height() - 1;
        if (Math.max(Math.abs(x), Math.abs(y)) <= MIDDLE) {
            return Optional.of(Part.MIDDLE);
        }
        if (Math.min(Math.abs(x), Math.abs(y)) < CORNER) {
            return Optional.empty();
        }
        return Optional.of(
                y < 0 ? x < 0 ? Part.BOTTOM_LEFT : Part.BOTTOM_RIGHT : x < 0 ? Part.TOP_LEFT : Part.TOP_RIGHT);
    }

    public Zone middle() {
        return zones.get(0);
    }

    public List<Zone> corners() {
        return zones.subList(1, zones.size());
    }

    /** Mean of the corners less the middle, steps: a field that is curved. */
    public double curvatureSteps() {
        return corners().stream().mapToDouble(Zone::position).average().orElseThrow() - middle().position();
    }

    /** From the corner focused farthest in to the one farthest out, steps: a sensor that is tilted. */
    public double tiltSteps() {
        return corners().stream().mapToDouble(Zone::position).max().orElseThrow()
                - corners().stream().mapToDouble(Zone::position).min().orElseThrow();
    }

    /** How sure the tilt is: the corners' errors in squares. */
    private double tiltSigma() {
        return Math.sqrt(2)
                * Math.sqrt(corners().stream()
                        .mapToDouble(z -> z.sigma() * z.sigma())
                        .average()
                        .orElseThrow());
    }

    /**
     * What it means, in a sentence.
     *
     * @param stepUm travel of the focal plane for a step
     * @param zoneSteps half the critical zone, steps
     */
    public String sentence(double stepUm, double zoneSteps) {
        double tilt = tiltSteps();
        String measured = String.format(
                Locale.ROOT,
                "Corners focus %+.0f µm from the middle, and %.0f ± %.0f µm apart",
                curvatureSteps() * stepUm,
                tilt * stepUm,
                tiltSigma() * stepUm);
        if (corners().size() < 4) {
            return measured
                    + String.format(
                            Locale.ROOT,
                            " (%d of 4 corners showed enough stars).",
                            corners().size());
        }
        if (tilt > 2 * zoneSteps && tilt > 3 * tiltSigma()) {
            Zone far = corners().stream()
                    .max((a, b) ->
                            Double.compare(Math.abs(a.position() - compromise), Math.abs(b.position() - compromise)))
                    .orElseThrow();
            return measured
                    + String.format(
                            Locale.ROOT,
                            ": the sensor is tilted beyond the critical zone of ± %.0f µm, most at the %s.",
                            zoneSteps * stepUm,
                            far.part().words());
        }
        if (Math.abs(curvatureSteps()) > zoneSteps) {
            return measured
                    + String.format(
                            Locale.ROOT,
                            ": the field is curved; %.0f serves middle and corners alike, %+.0f steps from the middle's.",
                            compromise,
                            compromise - middle().position());
        }
        return measured + ": one position serves them all.";
    }
}
