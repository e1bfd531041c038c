package app.ironside.desk.inspect;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.star.ShapeSurface;
import java.util.Arrays;
import java.util.Optional;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/**
 * How size and shape of stars change over a frame: the darker the ground the larger the stars, lines of equal size between, and strokes
 * along which stars are drawn out.
 */
public final class FieldMapView extends DrawnPane {
    /** From one line to the next, of the smallest size: the finest of these that makes few lines. */
    private static final double[] LINES_EVERY = {0.02, 0.05, 0.1, 0.25, 0.5, 1, 2};

    private static final int MOST_LINES = 7;

    /** Growth at which the ground has its full colour. */
    private static final double FULL_GROWTH = 0.5;

    private static final int STROKE_EVERY = 3;

    /** Rounder stars have no direction that an eye would see. */
    private static final double VISIBLE_ELONGATION = 0.04;

    private static final double ALARMING_ELONGATION = 0.12;
    private static final double FOOT = 22;

    private Optional<ShapeSurface> surface = Optional.empty();

    FieldMapView() {
        setMinSize(200, 226);
    }

    /** Nothing is shown until the next file is measured. */
    void clear() {
        surface = Optional.empty();
        stale();
    }

    boolean isEmpty() {
        return surface.isEmpty();
    }

    void show(ShapeSurface next) {
        surface = Optional.of(next);
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        surface.ifPresent(s -> s.leastPx()
                .ifPresentOrElse(
                        least -> new Drawing(g, s, least, width, height).draw(), () -> nothing(g, width, height)));
    }

    private void nothing(GraphicsContext g, double width, double height) {
        g.setFill(dim());
        g.setTextAlign(TextAlignment.CENTER);
        g.fillText("too few stars to map", width / 2, height / 2);
    }

    /** One drawing of a surface. */
    private final class Drawing {
        private final GraphicsContext g;
        private final ShapeSurface s;
        private final double least;
        private final double left;
        private final double top;
        private final double step;
        private final double lineEvery;

        Drawing(GraphicsContext g, ShapeSurface s, double least, double width, double height) {
            this.g = g;
            this.s = s;
            this.least = least;
            // The frame's own shape, its pixels as square as they are.
            this.step = Math.min((width - 20) / (s.columns() - 1), (height - 16 - FOOT) / (s.rows() - 1));
            this.left = (width - step * (s.columns() - 1)) / 2;
            this.top = 8;
            double most = most();
            this.lineEvery = Arrays.stream(LINES_EVERY)
                    .filter(every -> most / every <= MOST_LINES)
                    .findFirst()
                    .orElse(LINES_EVERY[LINES_EVERY.length - 1]);
        }

        private double most() {
            double most = 0;
            for (int row = 0; row < s.rows(); row++) {
                for (int column = 0; column < s.columns(); column++) {
                    double here = growth(column, row);
                    most = Double.isNaN(here) ? most : Math.max(most, here);
                }
            }
            return most;
        }

        void draw() {
            ground();
            lines();
            strokes();
            figures();
            g.setStroke(line());
            g.setLineWidth(1);
            g.strokeRect(left, top, step * (s.columns() - 1), step * (s.rows() - 1));
            g.setFill(dim());
            g.setFont(Font.font("IBM Plex Sans", 13));
            g.setTextAlign(TextAlignment.CENTER);
            g.setTextBaseline(VPos.BASELINE);
            g.fillText(
                    Words.format("smallest %.2f px, %.0f %% more from line to line", least, 100 * lineEvery),
                    left + step * (s.columns() - 1) / 2,
                    top + step * (s.rows() - 1) + 17);
        }

        private double x(double column) {
            return left + column * step;
        }

        private double y(double row) {
            return top + (s.rows() - 1 - row) * step;
        }

        private double growth(int column, int row) {
            return s.at(column, row)
                    .map(shape -> shape.halfFluxRadiusPx() / least - 1)
                    .orElse(Double.NaN);
        }

        private void ground() {
            for (int row = 0; row < s.rows() - 1; row++) {
                for (int column = 0; column < s.columns() - 1; column++) {
                    double mean = (growth(column, row)
                                    + growth(column + 1, row)
                                    + growth(column, row + 1)
                                    + growth(column + 1, row + 1))
                            / 4;
                    if (!Double.isNaN(mean)) {
                        g.setFill(faded(accent(), 0.06 + 0.5 * Math.min(1, mean / FULL_GROWTH)));
                        g.fillRect(x(column), y(row + 1), step + 0.5, step + 0.5);
                    }
                }
            }
        }

        /** Lines of equal size through each cell, from edge to edge where the size passes the line's. */
        private void lines() {
            g.setStroke(faded(text(), 0.55));
            g.setLineWidth(1);
            double most = most();
            for (double level = lineEvery; level < most; level += lineEvery) {
                for (int row = 0; row < s.rows() - 1; row++) {
                    for (int column = 0; column < s.columns() - 1; column++) {
                        // A square that two lines cross is cut into triangles: each is crossed by one or none.
                        triangle(level, column, row, column + 1, row, column, row + 1);
                        triangle(level, column + 1, row, column + 1, row + 1, column, row + 1);
                    }
                }
            }
        }

        private void triangle(double level, int... corners) {
            double[] ends = new double[4];
            int found = 0;
            for (int k = 0; k < 3 && found < 2; k++) {
                int c0 = corners[2 * k];
                int r0 = corners[2 * k + 1];
                int c1 = corners[(2 * k + 2) % 6];
                int r1 = corners[(2 * k + 3) % 6];
                double a = growth(c0, r0) - level;
                double b = growth(c1, r1) - level;
                if (a < 0 != b < 0 && !Double.isNaN(a) && !Double.isNaN(b)) {
                    double share = a / (a - b);
                    ends[2 * found] = x(c0 + share * (c1 - c0));
                    ends[2 * found + 1] = y(r0 + share * (r1 - r0));
                    found++;
                }
            }
            if (found == 2) {
                g.strokeLine(ends[0], ends[1], ends[2], ends[3]);
            }
        }

        private void strokes() {
            for (int row = 1; row < s.rows(); row += STROKE_EVERY) {
                for (int column = 1; column < s.columns(); column += STROKE_EVERY) {
                    int c = column;
                    int r = row;
                    s.at(column, row)
                            .filter(shape -> shape.elongation() > VISIBLE_ELONGATION)
                            .ifPresent(shape -> stroke(x(c), y(r), shape));
                }
            }
        }

        private void stroke(double x, double y, ShapeSurface.Shape shape) {
            double half = STROKE_EVERY * step * Math.min(0.48, 1.6 * shape.elongation());
            double angle = Math.toRadians(shape.angleDeg());
            g.setStroke(shape.elongation() > ALARMING_ELONGATION ? alert() : text());
            g.setLineWidth(shape.elongation() > ALARMING_ELONGATION ? 3 : 2);
            g.strokeLine(
                    x - half * Math.cos(angle),
                    y + half * Math.sin(angle),
                    x + half * Math.cos(angle),
                    y - half * Math.sin(angle));
        }

        /** Sizes in the corners and in the middle. */
        private void figures() {
            g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
            int right = s.columns() - 1;
            int high = s.rows() - 1;
            figure(0, 0, TextAlignment.LEFT, VPos.BOTTOM);
            figure(right, 0, TextAlignment.RIGHT, VPos.BOTTOM);
            figure(0, high, TextAlignment.LEFT, VPos.TOP);
            figure(right, high, TextAlignment.RIGHT, VPos.TOP);
            figure(right / 2, high / 2, TextAlignment.CENTER, VPos.CENTER);
        }

        private void figure(int column, int row, TextAlignment across, VPos up) {
            s.at(column, row).ifPresent(shape -> {
                g.setTextAlign(across);
                g.setTextBaseline(up);
                String words = Words.format("%.2f px", shape.halfFluxRadiusPx());
                double dx = across == TextAlignment.LEFT ? 4 : across == TextAlignment.RIGHT ? -4 : 0;
                double dy = up == VPos.TOP ? 3 : up == VPos.BOTTOM ? -3 : 0;
                double wide = 58;
                double x0 = x(column)
                        + dx
                        - (across == TextAlignment.LEFT ? 2 : across == TextAlignment.RIGHT ? wide : wide / 2);
                double y0 = y(row) + dy - (up == VPos.TOP ? 1 : up == VPos.BOTTOM ? 17 : 9);
                g.setFill(faded(panel(), 0.75));
                g.fillRoundRect(x0, y0, wide + 2, 19, 6, 6);
                g.setFill(shape.halfFluxRadiusPx() > 1.15 * least ? alert() : text());
                g.fillText(words, x(column) + dx, y(row) + dy);
            });
        }
    }
}
