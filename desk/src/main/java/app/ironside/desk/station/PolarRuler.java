package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.journal.AxisMeasured;
import java.util.List;
import java.util.function.ToDoubleFunction;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;

/**
 * What the hands do with the two knobs of the base: a ruler for each, standing for the one that lifts and lying for the one that turns, with
 * the pole in its middle. A mark shows where the axis is, an arrow the way to go; each ruler grows finer as its own error shrinks.
 */
public final class PolarRuler extends DrawnPane {
    /** Half lengths of a ruler, arcminutes. */
    private static final double[] HALVES = {0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 60, 120, 300};

    /** Room beyond the mark, and beyond what is allowed. */
    private static final double ROOM = 1.2;

    private static final double EDGE = 22;
    private static final double STANDING_AT = 74;
    private static final double BELOW = 112;
    private static final double TOP = 66;
    private static final int TICKS = 10;

    /** What a hand does about a positive and a negative error, and what these are called. */
    private static final List<String> ALTITUDE = List.of("lower", "raise", "high", "low");

    private static final List<String> AZIMUTH = List.of("to the west", "to the east", "east", "west");

    private List<AxisMeasured> measured = List.of();
    private double limitArcmin = 1;
    private boolean done;
    private String advice = "";

    PolarRuler() {
        getStyleClass().add("polar-ruler");
        setMinSize(200, 200);
    }

    /**
     * @param good whether the hands have nothing left to do
     */
    void show(List<AxisMeasured> errors, double limit, boolean good, String knobs) {
        measured = errors;
        done = good;
        limitArcmin = limit;
        advice = knobs;
        stale();
    }

    /**
     * One of the two.
     *
     * @param zeroX where the pole is, pixels
     * @param dx of a pixel along the ruler toward larger errors; dy is down
     */
    private record Ruler(double zeroX, double zeroY, double dx, double dy, double reach, double halfArcmin) {
        double x(double arcmin) {
            return zeroX + dx * along(arcmin);
        }

        double y(double arcmin) {
            return zeroY + dy * along(arcmin);
        }

        private double along(double arcmin) {
            return Math.max(-1, Math.min(1, arcmin / halfArcmin)) * reach;
        }
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        if (measured.isEmpty()) {
            return;
        }
        AxisMeasured last = measured.get(measured.size() - 1);
        double standing = (height - TOP - BELOW) / 2 - EDGE;
        Ruler altitude =
                new Ruler(STANDING_AT, TOP + EDGE + standing, 0, -1, standing, half(last.altitudeErrorArcmin()));
        double lying = (width - STANDING_AT - 2 * EDGE) / 2 - EDGE;
        Ruler azimuth = new Ruler(
                STANDING_AT + 2 * EDGE + lying,
                height - BELOW + EDGE / 2,
                1,
                0,
                lying,
                half(last.azimuthErrorArcmin()));
        ruler(g, altitude, AxisMeasured::altitudeErrorArcmin);
        ruler(g, azimuth, AxisMeasured::azimuthErrorArcmin);
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setTextAlign(TextAlignment.CENTER);
        g.fillText("high", altitude.zeroX(), TOP + 12);
        g.fillText("low", altitude.zeroX(), height - BELOW - 4);
        g.fillText("west", azimuth.x(-azimuth.halfArcmin()), azimuth.zeroY() + 42);
        g.fillText("east", azimuth.x(azimuth.halfArcmin()), azimuth.zeroY() + 42);
        heading(g, last);
        double middle = STANDING_AT + (width - STANDING_AT) / 2 + 8;
        double room = height - TOP - BELOW;
        knob(g, "altitude knob", task(last.altitudeErrorArcmin(), ALTITUDE), middle, TOP + 0.28 * room);
        knob(g, "azimuth knob", task(last.azimuthErrorArcmin(), AZIMUTH), middle, TOP + 0.72 * room);
        g.setFill(accent());
        g.setTextAlign(TextAlignment.CENTER);
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
        List<String> lines = inTwo(advice, width - 20, g.getFont());
        for (int i = 0; i < lines.size(); i++) {
            g.fillText(lines.get(i), width / 2, height - 14 - 20 * (lines.size() - 1 - i), width - 20);
        }
    }

    private void heading(GraphicsContext g, AxisMeasured last) {
        double total = last.totalErrorArcmin();
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 26));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(amount(total), 16, 36);
        g.setFont(Font.font("IBM Plex Sans", 14));
        g.setFill(dim());
        g.fillText(Words.format("± %.2f′ from the pole", last.uncertaintyArcmin()), 112, 36);
    }

    /** Half the ruler's length for an error: the finest on which it and what is allowed have room. */
    private double half(double errorArcmin) {
        double wanted = ROOM * Math.max(Math.abs(errorArcmin), limitArcmin);
        for (double half : HALVES) {
            if (half >= wanted) {
                return half;
            }
        }
        return HALVES[HALVES.length - 1];
    }

    private void ruler(GraphicsContext g, Ruler r, ToDoubleFunction<AxisMeasured> error) {
        double thick = 9;
        double allowed = Math.min(limitArcmin, r.halfArcmin());
        g.setFill(faded(good(), 0.3));
        g.fillRect(
                Math.min(r.x(-allowed), r.x(allowed)) - (r.dx() == 0 ? thick : 0),
                Math.min(r.y(-allowed), r.y(allowed)) - (r.dx() == 0 ? 0 : thick),
                r.dx() == 0 ? 2 * thick : r.x(allowed) - r.x(-allowed),
                r.dx() == 0 ? r.y(-allowed) - r.y(allowed) : 2 * thick);
        g.setStroke(line());
        g.setLineWidth(1.4);
        g.strokeLine(r.x(-r.halfArcmin()), r.y(-r.halfArcmin()), r.x(r.halfArcmin()), r.y(r.halfArcmin()));
        g.setFont(Font.font("IBM Plex Sans", 12));
        g.setTextAlign(r.dx() == 0 ? TextAlignment.RIGHT : TextAlignment.CENTER);
        for (int i = -TICKS; i <= TICKS; i++) {
            double at = r.halfArcmin() * i / TICKS;
            boolean named = i % 5 == 0;
            double size = named ? thick : thick / 2;
            g.setStroke(named ? dim() : line());
            g.strokeLine(
                    r.x(at) - (r.dx() == 0 ? size : 0),
                    r.y(at) - (r.dx() == 0 ? 0 : size),
                    r.x(at) + (r.dx() == 0 ? size : 0),
                    r.y(at) + (r.dx() == 0 ? 0 : size));
            if (named) {
                g.setFill(dim());
                g.fillText(
                        mark(Math.abs(at)),
                        r.x(at) - (r.dx() == 0 ? thick + 4 : 0),
                        r.y(at) + (r.dx() == 0 ? 4 : thick + 14));
            }
        }
        marks(g, r, error);
    }

    /** Where the axis was, small; where it is, with the way to the pole. */
    private void marks(GraphicsContext g, Ruler r, ToDoubleFunction<AxisMeasured> error) {
        for (int i = 0; i < measured.size(); i++) {
            double at = error.applyAsDouble(measured.get(i));
            boolean last = i == measured.size() - 1;
            double x = r.x(at);
            double y = r.y(at);
            if (last) {
                g.setStroke(accent());
                g.setLineWidth(3);
                g.strokeLine(x, y, r.zeroX(), r.zeroY());
                g.setFill(accent());
                double w = 11;
                // A wedge that points at the ruler.
                if (r.dx() == 0) {
                    g.fillPolygon(new double[] {x + 6, x + 6 + w, x + 6 + w}, new double[] {y, y - 7, y + 7}, 3);
                } else {
                    g.fillPolygon(new double[] {x, x - 7, x + 7}, new double[] {y - 6, y - 6 - w, y - 6 - w}, 3);
                }
            } else {
                g.setFill(faded(second(), 0.7));
                g.fillRect(x - 2, y - 2, 4, 4);
            }
        }
    }

    /** What is to be done about an error, or where it stands if nothing is. */
    private String task(double errorArcmin, List<String> words) {
        int way = errorArcmin > 0 ? 0 : 1;
        return done
                ? amount(Math.abs(errorArcmin)) + " " + words.get(2 + way)
                : words.get(way) + "  " + amount(Math.abs(errorArcmin));
    }

    private void knob(GraphicsContext g, String name, String task, double x, double y) {
        g.setTextAlign(TextAlignment.CENTER);
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.fillText(name, x, y - 20);
        g.setFill(done ? dim() : text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, done ? 17 : 22));
        g.fillText(task, x, y + 8);
    }

    private static String amount(double arcmin) {
        return Words.format(arcmin >= 2 ? "%.1f′" : "%.2f′", arcmin);
    }

    private static String mark(double arcmin) {
        if (arcmin == 0) {
            return "pole";
        }
        return arcmin >= 60 ? Words.number(arcmin / 60) + "°" : Words.number(arcmin) + "′";
    }

    /** Words on one line if they have room there, else on two of about one length. */
    private static List<String> inTwo(String words, double room, Font font) {
        Text measure = new Text(words);
        measure.setFont(font);
        int after = words.indexOf(' ', words.length() / 2);
        int before = words.lastIndexOf(' ', words.length() / 2);
        int at = after < 0 || words.length() / 2 - before < after - words.length() / 2 ? before : after;
        return at < 0 || measure.getLayoutBounds().getWidth() <= room
                ? List.of(words)
                : List.of(words.substring(0, at), words.substring(at + 1));
    }
}
