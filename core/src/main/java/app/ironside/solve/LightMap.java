package app.ironside.solve;

import app.ironside.image.Statistics;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * How a frame's light differs from the reference's over the sensor, told by the stars that both should show: a spot that has come to lie on
 * the sensor, a window that freezes from its middle, rows that were never read out. What dims the whole field alike does not show.
 *
 * @param spotShare share of the light that is lost where most is lost; 0 if nothing stands out
 * @param spotX where that is, share of the width
 * @param spotY share of the height
 * @param emptyShare share of the frame's height in which no star is found where the reference has many, at one end of it
 * @param middleShare light in the middle over light near the edge, against the reference; 1 if nothing has changed
 */
public record LightMap(double spotShare, double spotX, double spotY, double emptyShare, double middleShare) {
    /** Cells along the longer side: a spot is about as wide as two. */
    private static final int CELLS = 16;

    private static final int BANDS = 20;
    private static final int MOST_STARS = 3000;
    private static final double SURE_SNR = 25;
    private static final double NEAR_PX = 4;
    private static final double EDGE_PX = 12;
    private static final int FEWEST_IN_CELL = 3;
    private static final int FEWEST_IN_BAND = 4;

    /** What is lost must be so many times the scatter of the cells. */
    private static final double STANDS_OUT = 5;

    private static final double LEAST_SPOT = 0.06;

    /** The middle ends, and the edge begins, at this share of half of the diagonal. */
    private static final double MIDDLE = 0.35;

    private static final double EDGE = 0.65;
    private static final int FEWEST_IN_RING = 8;

    /** A star of the reference, where it should be in the frame, and what is left of its light; 0 if it is not found. */
    private record Seen(double x, double y, double ratio) {}

    /**
     * Of a frame that is registered; empty if too few stars tell.
     *
     * @param transform from the reference's pixels to the frame's
     */
    public static Optional<LightMap> of(StarField reference, StarField frame, PlaneTransform transform) {
        List<Seen> seen = seen(reference, frame, transform);
        double[] found =
                seen.stream().mapToDouble(Seen::ratio).filter(r -> r > 0).toArray();
        if (found.length < 4 * FEWEST_IN_RING) {
            return Optional.empty();
        }
        double usual = Statistics.median(found);
        double empty = emptyShare(seen, frame);
        double[] spot = spot(seen, frame, usual);
        return Optional.of(new LightMap(
                empty > 0 ? 0 : spot[0], spot[1], spot[2], empty, empty > 0 ? 1 : middleShare(seen, frame)));
    }

    private static List<Seen> seen(StarField reference, StarField frame, PlaneTransform t) {
        StarPlaces places = new StarPlaces(frame);
        List<Seen> seen = new ArrayList<>();
        for (Star star : reference
                .stars()
                .subList(0, Math.min(MOST_STARS, reference.stars().size()))) {
            if (star.snr() < SURE_SNR || star.saturated()) {
                continue;
            }
            double x = t.x(star.x(), star.y());
            double y = t.y(star.x(), star.y());
            if (x > EDGE_PX && y > EDGE_PX && x < frame.width() - EDGE_PX && y < frame.height() - EDGE_PX) {
                seen.add(new Seen(
                        x,
                        y,
                        places.brightest(x, y, NEAR_PX)
                                .map(s -> s.fluxAdu() / star.fluxAdu())
                                .orElse(0.0)));
            }
        }
        return seen;
    }

    /** Share, x and y of the darkest cell. */
    private static double[] spot(List<Seen> seen, StarField frame, double usual) {
        double cell = Math.max(frame.width(), frame.height()) / (double) CELLS;
        int columns = (int) Math.ceil(frame.width() / cell);
        int rows = (int) Math.ceil(frame.height() / cell);
        List<List<Double>> cells = new ArrayList<>();
        for (int i = 0; i < columns * rows; i++) {
            cells.add(new ArrayList<>());
        }
        for (Seen s : seen) {
            if (s.ratio() > 0) {
                int column = (int) Math.min(columns - 1, s.x() / cell);
                int row = (int) Math.min(rows - 1, s.y() / cell);
                cells.get(row * columns + column).add(s.ratio() / usual);
            }
        }
        double[] lights = cells.stream()
                .mapToDouble(c -> c.size() < FEWEST_IN_CELL
                        ? Double.NaN
                        : Statistics.median(
                                c.stream().mapToDouble(Double::doubleValue).toArray()))
                .toArray();
        double[] told = Arrays.stream(lights).filter(v -> !Double.isNaN(v)).toArray();
        double[] spot = {0, 0.5, 0.5};
        if (told.length < CELLS) {
            return spot;
        }
        double middle = Statistics.median(told);
        double scatter = 1.4826
                * Statistics.median(
                        Arrays.stream(told).map(v -> Math.abs(v - middle)).toArray());
        for (int i = 0; i < lights.length; i++) {
            double lost = 1 - lights[i] / middle;
            if (lost > Math.max(spot[0], Math.max(LEAST_SPOT, STANDS_OUT * scatter))) {
                spot = new double[] {lost, (i % columns + 0.5) / columns, (i / columns + 0.5) / rows};
            }
        }
        return spot;
    }

    /** How much of the frame is empty, from one end on. */
    private static double emptyShare(List<Seen> seen, StarField frame) {
        int[] wanted = new int[BANDS];
        int[] found = new int[BANDS];
        for (Seen s : seen) {
            int band = (int) Math.min(BANDS - 1, s.y() * BANDS / frame.height());
            wanted[band]++;
            found[band] += s.ratio() > 0 ? 1 : 0;
        }
        return Math.max(empty(wanted, found, 0, 1), empty(wanted, found, BANDS - 1, -1)) / BANDS;
    }

    private static double empty(int[] wanted, int[] found, int from, int step) {
        int bands = 0;
        int stars = 0;
        for (int i = from; i >= 0 && i < BANDS && found[i] == 0; i += step) {
            bands++;
            stars += wanted[i];
        }
        return bands < BANDS && stars >= FEWEST_IN_BAND * bands ? bands : 0;
    }

    private static double middleShare(List<Seen> seen, StarField frame) {
        double[] middle = ring(seen, frame, 0, MIDDLE);
        double[] edge = ring(seen, frame, EDGE, 2);
        return middle.length < FEWEST_IN_RING || edge.length < FEWEST_IN_RING
                ? 1
                : Statistics.median(middle) / Statistics.median(edge);
    }

    private static double[] ring(List<Seen> seen, StarField frame, double from, double until) {
        double half = Math.hypot(frame.width(), frame.height()) / 2;
        return seen.stream()
                .filter(s -> {
                    double away = Math.hypot(s.x() - frame.width() / 2.0, s.y() - frame.height() / 2.0) / half;
                    return away >= from && away < until && s.ratio() > 0;
                })
                .mapToDouble(Seen::ratio)
                .toArray();
    }
}
