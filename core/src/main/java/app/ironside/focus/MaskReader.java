package app.ironside.focus;

import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Reads the pattern of a focusing mask of three grids from a frame, at any angle and of several stars at once: the light along lines through
 * each bright star is added up, the three brightest directions with one in the middle of the others are the spikes, and a line is fitted
 * to where each is brightest.
 */
public final class MaskReader {
    private static final int MOST_STARS = 5;
    private static final double LEAST_SNR = 50;

    /** Half the side of what is looked at about a star. */
    private static final int REACH = 130;

    private static final int LEAST_REACH = 40;

    /** Nearer to the star its own disc hides the spikes; at least, and in its half-flux radii. */
    private static final double CORE_PX = 7;

    private static final double CORE_RADII = 2.5;

    private static final double ANGLE_STEP_DEG = 0.5;
    private static final int DIRECTIONS = (int) (180 / ANGLE_STEP_DEG);

    /** A spike passes the star by at most so much where it is looked for. */
    private static final int PASSES_PX = 16;

    private static final double LEAST_SPREAD_DEG = 8;
    private static final double MOST_SPREAD_DEG = 40;
    private static final double SKEW_DEG = 2.5;

    /** A direction is a spike when its light stands out by so many spreads of all directions. */
    private static final double STANDS_OUT = 5;

    private static final double NORMAL = 1.4826;

    /** Half the width of the strip in which a spike's place is measured. */
    private static final int STRIP_PX = 5;

    private static final int LEAST_STRIP_PX = 2;

    /** The strip is laid anew on the line so often. */
    private static final int FOLLOWED = 5;

    /** Along a spike, its place is measured in pieces so long. */
    private static final int PIECE_PX = 4;

    private static final double FAR_SPREADS = 3.5;

    /** No piece is placed better than this: pixels are squares. */
    private static final double FLOOR_PX = 0.03;

    /** Brighter than so many spreads of the noise a pixel counts no more in the search for directions. */
    private static final double BRIGHTEST = 30;

    private MaskReader() {}

    /**
     * Reads a frame.
     *
     * @param field its stars, as any search finds them
     * @return empty if no star shows three spikes with one in the middle
     */
    public static Optional<MaskPattern> read(Frame frame, StarField field) {
        List<MaskPattern.StarRead> read = new ArrayList<>();
        List<double[]> angles = new ArrayList<>();
        List<Star> bright = field.stars().stream()
                .filter(s -> s.snr() >= LEAST_SNR)
                .sorted(Comparator.comparingDouble(Star::fluxAdu).reversed())
                .toList();
        List<Star> looked = new ArrayList<>();
        for (Star star : bright) {
            if (read.size() == MOST_STARS || looked.size() == 4 * MOST_STARS) {
                break;
            }
            // What is found along the spikes of a brighter star is a piece of them.
            if (looked.stream().anyMatch(s -> Math.hypot(s.x() - star.x(), s.y() - star.y()) < REACH)) {
                continue;
            }
            looked.add(star);
            Optional<Look> look = Look.at(frame, star);
            look.flatMap(Look::spikes).ifPresent(s -> {
                read.add(s.star());
                angles.add(new double[] {s.middleDeg(), s.spreadDeg()});
            });
        }
        return read.isEmpty() ? Optional.empty() : Optional.of(together(read, angles));
    }

    /** All stars of a frame stand at one distance from focus: their mean by weight; if they disagree, their error grows with that. */
    private static MaskPattern together(List<MaskPattern.StarRead> read, List<double[]> angles) {
        double first = angles.get(0)[0];
        double w = 0;
        double sum = 0;
        double turned = 0;
        double spread = 0;
        List<MaskPattern.StarRead> used = new ArrayList<>();
        for (int i = 0; i < read.size(); i++) {
            double off = Math.IEEEremainder(angles.get(i)[0] - first, 180);
            if (Math.abs(off) > 2 * SKEW_DEG) {
                continue; // the frame has one mask: this star's pattern is something else
            }
            // A direction may come out as its opposite, and its side with it.
            boolean opposite = Math.abs(Math.IEEEremainder(angles.get(i)[0] - first, 360)) > 90;
            MaskPattern.StarRead star = read.get(i);
            double weight = 1 / (star.sigmaPx() * star.sigmaPx());
            sum += weight * (opposite ? -star.offsetPx() : star.offsetPx());
            w += weight;
            turned += weight * off;
            spread += weight * angles.get(i)[1];
            used.add(star);
        }
        double mean = sum / w;
        double chi = 0;
        for (MaskPattern.StarRead star : used) {
            chi += Math.pow((star.offsetPx() - mean) / star.sigmaPx(), 2);
        }
        double excess = used.size() > 1 ? Math.max(1, Math.sqrt(chi / (used.size() - 1))) : 1;
        return new MaskPattern(mean, excess / Math.sqrt(w), wrapped(first + turned / w), spread / w, used);
    }

    private static double wrapped(double deg) {
        double in = deg % 180;
        return in < 0 ? in + 180 : in;
    }

    /** What one star shows. */
    private record Spikes(MaskPattern.StarRead star, double middleDeg, double spreadDeg) {}

    /** A spike measured: passes the star's place by so much, square to a direction. */
    private record Fitted(double angleDeg, double pass, double passSigma, double slopeSigma, double signal) {
        double nx() {
            return -Math.sin(Math.toRadians(angleDeg));
        }

        double ny() {
            return Math.cos(Math.toRadians(angleDeg));
        }
    }

    /** The surroundings of a star, its round light taken out. */
    private static final class Look {
        /** Of the star, pixels from 1. */
        private final double centreX;

        private final double centreY;

        /** Of the star from the middle of what is looked at. */
        private final double x0;

        private final double y0;
        private final int reach;
        private final double core;
        private final float[] light;
        private final int side;
        private final double noise;

        private Look(Star star, int reach, double core, float[] light, double noise) {
            this.centreX = star.x();
            this.centreY = star.y();
            this.x0 = star.x() - Math.round(star.x());
            this.y0 = star.y() - Math.round(star.y());
            this.reach = reach;
            this.core = core;
            this.light = light;
            this.side = 2 * reach + 1;
            this.noise = noise;
        }

        static Optional<Look> at(Frame frame, Star star) {
            // Stars count from 1.
            int cx = (int) Math.round(star.x()) - 1;
            int cy = (int) Math.round(star.y()) - 1;
            int reach = Math.min(
                    REACH, Math.min(Math.min(cx, cy), Math.min(frame.width() - 1 - cx, frame.height() - 1 - cy)));
            if (reach < LEAST_REACH) {
                return Optional.empty();
            }
            int side = 2 * reach + 1;
            float[] light = new float[side * side];
            for (int y = 0; y < side; y++) {
                for (int x = 0; x < side; x++) {
                    light[y * side + x] = frame.pixels()[(cy - reach + y) * frame.width() + cx - reach + x];
                }
            }
            double core = Math.max(CORE_PX, CORE_RADII * star.halfFluxRadiusPx());
            double noise = withoutRound(light, side, reach, reach / 5.0 + core);
            return Optional.of(new Look(star, reach, Math.min(core, reach / 3.0), light, noise));
        }

        /** Takes the median of each ring out: sky and the star's halo; what is left is spikes, other stars and noise. */
        private static double withoutRound(float[] light, int side, int reach, double quietFrom) {
            List<List<Integer>> rings = new ArrayList<>();
            for (int r = 0; r <= 2 * reach; r++) {
                rings.add(new ArrayList<>());
            }
            for (int i = 0; i < light.length; i++) {
                rings.get((int) Math.hypot(i % side - reach, i / side - reach)).add(i);
            }
            List<Double> quiet = new ArrayList<>();
            for (int r = 0; r < rings.size(); r++) {
                List<Integer> ring = rings.get(r);
                if (ring.isEmpty()) {
                    continue;
                }
                double[] values = new double[ring.size()];
                for (int k = 0; k < values.length; k++) {
                    values[k] = light[ring.get(k)];
                }
                double median = Statistics.median(values);
                for (int i : ring) {
                    light[i] -= (float) median;
                    if (r > quietFrom && r <= reach) {
                        quiet.add((double) Math.abs(light[i]));
                    }
                }
            }
            return NORMAL
                    * Statistics.median(
                            quiet.stream().mapToDouble(Double::doubleValue).toArray());
        }

        private double at(double x, double y) {
            if (x < 0 || y < 0) {
                return 0;
            }
            int ix = (int) x;
            int iy = (int) y;
            if (ix + 1 >= side || iy + 1 >= side) {
                return 0;
            }
            double fx = x - ix;
            double fy = y - iy;
            int i = iy * side + ix;
            double value = (1 - fy) * ((1 - fx) * light[i] + fx * light[i + 1])
                    + fy * ((1 - fx) * light[i + side] + fx * light[i + side + 1]);
            // A star on the way must not make a spike.
            return Math.max(-8 * noise, value);
        }

        Optional<Spikes> spikes() {
            double[][] sums = new double[DIRECTIONS][];
            double[] best = new double[DIRECTIONS];
            for (int d = 0; d < DIRECTIONS; d++) {
                sums[d] = along(d * ANGLE_STEP_DEG);
                best[d] = Arrays.stream(sums[d]).max().orElseThrow();
            }
            double usual = Statistics.median(best.clone());
            double[] off = Arrays.stream(best).map(b -> Math.abs(b - usual)).toArray();
            double spread = Math.max(1e-9, NORMAL * Statistics.median(off));
            int[] triple = triple(best, usual + STANDS_OUT * spread);
            if (triple == null) {
                return Optional.empty();
            }
            double spreadDeg = (triple[1] - triple[2]) * ANGLE_STEP_DEG / 2;
            List<Fitted> fitted = new ArrayList<>();
            for (int d : triple) {
                Optional<Fitted> fit = fitted(d * ANGLE_STEP_DEG, pass(sums, d), spreadDeg);
                if (fit.isEmpty()) {
                    return Optional.empty();
                }
                fitted.add(fit.get());
            }
            return Optional.of(measured(fitted.get(0), fitted.get(1), fitted.get(2)));
        }

        /** For each pass of the star, the mean light along a line in a direction, both sides of the star alike. */
        private double[] along(double angleDeg) {
            double c = Math.cos(Math.toRadians(angleDeg));
            double s = Math.sin(Math.toRadians(angleDeg));
            double[] sums = new double[2 * PASSES_PX + 1];
            for (int p = -PASSES_PX; p <= PASSES_PX; p++) {
                double[] sides = new double[2];
                int count = 0;
                for (double t = core; t < reach - PASSES_PX; t++) {
                    for (int side2 = 0; side2 < 2; side2++) {
                        double along = side2 == 0 ? t : -t;
                        double v = at(reach + x0 + along * c - p * s, reach + y0 + along * s + p * c);
                        sides[side2] += Math.min(v, BRIGHTEST * noise);
                    }
                    count++;
                }
                // A spike goes through the star: what is on one side only is another star.
                sums[p + PASSES_PX] = Math.min(sides[0], sides[1]) / Math.max(1, count);
            }
            return sums;
        }

        /** A direction beyond half a turn is its opposite, and passes on the other side. */
        private static int pass(double[][] sums, int d) {
            int pass = passOf(sums[Math.floorMod(d, DIRECTIONS)]);
            return Math.floorMod(Math.floorDiv(d, DIRECTIONS), 2) == 0 ? pass : -pass;
        }

        private static int passOf(double[] sums) {
            int best = 0;
            for (int p = 1; p < sums.length; p++) {
                best = sums[p] > sums[best] ? p : best;
            }
            return best - PASSES_PX;
        }

        /** Middle, one side, other side: three peaks that stand out, the middle one half way. Null if there are none. */
        private static int[] triple(double[] best, double least) {
            List<Integer> peaks = new ArrayList<>();
            int wide = (int) (3 / ANGLE_STEP_DEG);
            for (int d = 0; d < DIRECTIONS; d++) {
                boolean peak = best[d] >= least;
                for (int k = 1; k <= wide && peak; k++) {
                    peak = best[d] >= best[Math.floorMod(d - k, DIRECTIONS)]
                            && best[d] > best[Math.floorMod(d + k, DIRECTIONS)];
                }
                if (peak) {
                    peaks.add(d);
                }
            }
            int[] found = null;
            double most = 0;
            for (int middle : peaks) {
                for (int one : peaks) {
                    double a = Math.IEEEremainder((one - middle) * ANGLE_STEP_DEG, 180);
                    if (a < LEAST_SPREAD_DEG || a > MOST_SPREAD_DEG) {
                        continue;
                    }
                    for (int other : peaks) {
                        double b = Math.IEEEremainder((other - middle) * ANGLE_STEP_DEG, 180);
                        double sum = best[middle] + best[one] + best[other];
                        if (b < 0 && Math.abs(a + b) <= 2 * SKEW_DEG && sum > most) {
                            most = sum;
                            found = new int[] {
                                middle,
                                middle + (int) Math.round(a / ANGLE_STEP_DEG),
                                middle + (int) Math.round(b / ANGLE_STEP_DEG)
                            };
                        }
                    }
                }
            }
            return found;
        }

        /** A line through where a spike is brightest, piece by piece; the strip that is looked at follows it. */
        private Optional<Fitted> fitted(double angleDeg, int pass, double spreadDeg) {
            Optional<Fitted> line = Optional.of(new Fitted(angleDeg, pass, 0, 0, 0));
            for (int round = 0; round < FOLLOWED && line.isPresent(); round++) {
                line = followed(line.get().angleDeg(), line.get().pass(), spreadDeg);
            }
            return line;
        }

        private Optional<Fitted> followed(double angleDeg, double pass, double spreadDeg) {
            double halfWay = Math.sin(Math.toRadians(spreadDeg)) / 2;
            double c = Math.cos(Math.toRadians(angleDeg));
            double s = Math.sin(Math.toRadians(angleDeg));
            List<double[]> places = new ArrayList<>();
            for (double t = -reach + PASSES_PX; t + PIECE_PX <= reach - PASSES_PX; t += PIECE_PX) {
                double middle = t + PIECE_PX / 2.0;
                // Near the star the next spike is not far: half way to it is another's.
                int strip = (int) Math.min(STRIP_PX, Math.abs(middle) * halfWay);
                if (strip < LEAST_STRIP_PX || t + PIECE_PX > -core && t < core) {
                    continue;
                }
                double[] across = new double[2 * strip + 1];
                for (int p = -strip; p <= strip; p++) {
                    for (int k = 0; k < PIECE_PX; k++) {
                        double along = t + k + 0.5;
                        across[p + strip] +=
                                at(reach + x0 + along * c - (pass + p) * s, reach + y0 + along * s + (pass + p) * c)
                                        / PIECE_PX;
                    }
                }
                place(across, noise / Math.sqrt(PIECE_PX))
                        .ifPresent(found -> places.add(new double[] {middle, found[0], found[1], found[2]}));
            }
            return line(places, angleDeg, pass);
        }

        /** Centre of the light across a spike, its error, and its signal over noise; empty where it drowns. */
        private static Optional<double[]> place(double[] across, double noise) {
            int strip = across.length / 2;
            double sum = 0;
            double first = 0;
            for (int p = 0; p < across.length; p++) {
                double v = across[p];
                sum += v;
                first += v * (p - strip);
            }
            double signal = sum / (noise * Math.sqrt(across.length));
            if (signal < 3) {
                return Optional.empty();
            }
            double centre = first / sum;
            double squares = 0;
            for (int p = 0; p < across.length; p++) {
                squares += Math.pow(p - strip - centre, 2);
            }
            return Optional.of(new double[] {centre, noise * Math.sqrt(squares) / sum, signal});
        }

        private static Optional<Fitted> line(List<double[]> all, double angleDeg, double pass) {
            List<double[]> places = all;
            for (int round = 0; round < 3; round++) {
                if (places.size() < 6) {
                    return Optional.empty();
                }
                double w = 0;
                double wt = 0;
                double wtt = 0;
                double wp = 0;
                double wtp = 0;
                double signal = 0;
                for (double[] p : places) {
                    double weight = 1 / (p[2] * p[2] + FLOOR_PX * FLOOR_PX);
                    w += weight;
                    wt += weight * p[0];
                    wtt += weight * p[0] * p[0];
                    wp += weight * p[1];
                    wtp += weight * p[0] * p[1];
                    signal += p[3] * p[3];
                }
                double determinant = w * wtt - wt * wt;
                double slope = (w * wtp - wt * wp) / determinant;
                double at0 = (wp - slope * wt) / w;
                double[] off = places.stream()
                        .mapToDouble(p -> Math.abs(p[1] - at0 - slope * p[0]))
                        .toArray();
                double spread = Math.max(FLOOR_PX, NORMAL * Statistics.median(off.clone()));
                double chi = 0;
                for (double[] p : places) {
                    chi += Math.pow(p[1] - at0 - slope * p[0], 2) / (p[2] * p[2] + FLOOR_PX * FLOOR_PX);
                }
                double excess = Math.max(1, Math.sqrt(chi / (places.size() - 2.0)));
                List<double[]> near = new ArrayList<>();
                for (int i = 0; i < places.size(); i++) {
                    if (off[i] <= FAR_SPREADS * spread) {
                        near.add(places.get(i));
                    }
                }
                if (near.size() == places.size() || round == 2) {
                    double turned = Math.toDegrees(Math.atan(slope));
                    return Optional.of(new Fitted(
                            angleDeg + turned,
                            (pass + at0) * Math.cos(Math.toRadians(turned)),
                            excess * Math.sqrt(wtt / determinant),
                            excess * Math.sqrt(w / determinant),
                            Math.sqrt(signal)));
                }
                places = near;
            }
            return Optional.empty();
        }

        /** Each line is n · (place − star) = pass. */
        private Spikes measured(Fitted middle, Fitted one, Fitted other) {
            double[] crossing = crossing(one, other, one.pass(), other.pass());
            double offset = middle.pass() - middle.nx() * crossing[0] - middle.ny() * crossing[1];
            double h = 1e-3;
            double byOne = sensitivity(middle, crossing(one, other, one.pass() + h, other.pass()), crossing) / h;
            double byOther = sensitivity(middle, crossing(one, other, one.pass(), other.pass() + h), crossing) / h;
            double sigma = Math.sqrt(Math.pow(middle.passSigma(), 2)
                    + Math.pow(byOne * one.passSigma(), 2)
                    + Math.pow(byOther * other.passSigma(), 2));
            double x = centreX + crossing[0];
            double y = centreY + crossing[1];
            List<MaskPattern.Spike> lines = new ArrayList<>();
            for (Fitted f : List.of(middle, one, other)) {
                lines.add(
                        new MaskPattern.Spike(centreX + f.nx() * f.pass(), centreY + f.ny() * f.pass(), f.angleDeg()));
            }
            double a = Math.IEEEremainder(one.angleDeg() - middle.angleDeg(), 180);
            double b = Math.IEEEremainder(other.angleDeg() - middle.angleDeg(), 180);
            return new Spikes(
                    new MaskPattern.StarRead(
                            x,
                            y,
                            offset,
                            sigma,
                            Math.min(middle.signal(), Math.min(one.signal(), other.signal())),
                            lines),
                    middle.angleDeg(),
                    (Math.abs(a) + Math.abs(b)) / 2);
        }

        private static double sensitivity(Fitted middle, double[] moved, double[] crossing) {
            return -middle.nx() * (moved[0] - crossing[0]) - middle.ny() * (moved[1] - crossing[1]);
        }

        private static double[] crossing(Fitted a, Fitted b, double passA, double passB) {
            double determinant = a.nx() * b.ny() - a.ny() * b.nx();
            return new double[] {
                (passA * b.ny() - passB * a.ny()) / determinant, (a.nx() * passB - b.nx() * passA) / determinant
            };
        }
    }
}
