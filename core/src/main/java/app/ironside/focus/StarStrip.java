package app.ironside.focus;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.image.Stretch;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * One star of a sweep as it looked in each of its frames, squares beside one another: for looking from one to the next.
 *
 * @param frame the squares from left to right, raw values
 * @param positions of the focuser, steps, rising, one for each square
 */
public record StarStrip(Frame frame, List<Integer> positions) {
    /** Pixels of a square's side: wide enough for a star far out of focus. */
    public static final int SIDE = 48;

    /** By so much a star may have moved between two frames without guiding, pixels. */
    private static final double DRIFT_PX = 14;

    /** The brightest are saturated as soon as they are sharp, the faint ones drown where they are not. */
    private static final int BRIGHTER = 3;

    private static final int OF_THE_BRIGHTEST = 25;
    private static final double SOFTENING = 0.05;

    public StarStrip {
        positions = List.copyOf(positions);
    }

    /** One stretch for all squares: from the sky of all to the highest peak, so that what swells is seen to fade. */
    public Stretch stretch() {
        double[] values = new double[frame.pixels().length];
        double top = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < values.length; i++) {
            values[i] = frame.pixels()[i];
            top = Math.max(top, values[i]);
        }
        double sky = Statistics.median(values);
        return new Stretch(sky, Math.max(sky + 1, top), SOFTENING);
    }

    /** Cuts the squares as the frames of a sweep come; of each frame no more than its square is held. */
    public static final class Gathering {
        private final List<Square> squares = new ArrayList<>();
        private double x = Double.NaN;
        private double y;

        private record Square(int position, float[] pixels) {}

        /** Takes the next frame. The star is chosen in the first that shows one bright enough and far enough from the edge. */
        public void add(FocusRun.Shot shot) {
            Optional<Star> star = Double.isNaN(x) ? chosen(shot.stars()) : near(shot.stars());
            star.ifPresent(s -> {
                x = s.x();
                y = s.y();
            });
            if (!Double.isNaN(x)) {
                squares.add(new Square(shot.positionSteps(), cut(shot.frame())));
            }
        }

        private static Optional<Star> chosen(StarField field) {
            double half = SIDE / 2.0 + DRIFT_PX;
            List<Star> inside = field.good().stream()
                    .filter(s -> s.x() > half
                            && s.y() > half
                            && s.x() < field.width() - half
                            && s.y() < field.height() - half)
                    .limit(OF_THE_BRIGHTEST)
                    .toList();
            return inside.stream()
                    .skip(inside.size() > 2 * BRIGHTER ? BRIGHTER : 0)
                    .min(Comparator.comparingDouble(
                            s -> Math.hypot(s.x() - field.width() / 2.0, s.y() - field.height() / 2.0)));
        }

        private Optional<Star> near(StarField field) {
            return field.stars().stream()
                    .filter(s -> Math.hypot(s.x() - x, s.y() - y) <= DRIFT_PX)
                    .max(Comparator.comparingDouble(Star::fluxAdu));
        }

        /** Beyond the frame's edge its last pixels go on. */
        private float[] cut(Frame from) {
            int left = (int) Math.round(x) - SIDE / 2;
            int bottom = (int) Math.round(y) - SIDE / 2;
            float[] pixels = new float[SIDE * SIDE];
            for (int row = 0; row < SIDE; row++) {
                for (int column = 0; column < SIDE; column++) {
                    pixels[row * SIDE + column] = from.at(
                            Math.max(1, Math.min(from.width(), left + column)),
                            Math.max(1, Math.min(from.height(), bottom + row)));
                }
            }
            return pixels;
        }

        /** The strip; empty with fewer than two squares. */
        public Optional<StarStrip> strip() {
            if (squares.size() < 2) {
                return Optional.empty();
            }
            List<Square> inOrder = squares.stream()
                    .sorted(Comparator.comparingInt(Square::position))
                    .toList();
            int width = SIDE * inOrder.size();
            float[] pixels = new float[width * SIDE];
            for (int i = 0; i < inOrder.size(); i++) {
                for (int row = 0; row < SIDE; row++) {
                    System.arraycopy(inOrder.get(i).pixels(), row * SIDE, pixels, row * width + i * SIDE, SIDE);
                }
            }
            return Optional.of(new StarStrip(
                    new Frame(width, SIDE, pixels, Header.EMPTY),
                    inOrder.stream().map(Square::position).toList()));
        }
    }
}
