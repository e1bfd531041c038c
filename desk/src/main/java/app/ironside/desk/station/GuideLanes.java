package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.guide.Excursion;
import app.ironside.guide.GuideSample;
import java.time.Duration;
import java.util.List;
import java.util.function.ToDoubleFunction;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/**
 * A stretch of guiding: each axis in a lane of its own, under the star's displacement what the hand of the mount did about it, and beside
 * both the star's way over one pixel of the main camera, where it counts.
 */
final class GuideLanes extends DrawnPane {
    /**
     * All of it.
     *
     * @param pixelArcsec of the main camera
     * @param excursions by seconds from the first sample
     * @param changes of the rules, seconds from the first sample
     */
    record State(
            String title,
            List<GuideSample> samples,
            double pixelArcsec,
            List<Excursion> excursions,
            List<Double> changes) {
        static final State EMPTY = new State("", List.of(), 1, List.of(), List.of());

        State {
            samples = List.copyOf(samples);
            excursions = List.copyOf(excursions);
            changes = List.copyOf(changes);
        }
    }

    private static final double LEFT = 64;
    private static final double TOP = 38;
    private static final double BOTTOM = 26;
    private static final double GAP = 14;
    private static final double NAME = 16;
    private static final double PULSES_SHARE = 0.24;
    private static final double PIXEL_SHARE = 0.30;
    private static final double WIDEST_PIXELS = 4;

    private State state = State.EMPTY;

    GuideLanes() {
        getStyleClass().add("plot");
        setMinSize(240, 160);
        setAccessibleText(
                "The guide star's displacement in each axis, the pulses, and its way over a pixel of the main camera");
    }

    void show(State next) {
        state = next;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        g.setTextAlign(TextAlignment.LEFT);
        g.setTextBaseline(VPos.BASELINE);
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
        g.fillText(state.title(), 16, 24);
        if (state.samples().size() < 2) {
            return;
        }
        double side = Math.min(height - TOP - BOTTOM, width * PIXEL_SHARE);
        double right = width - side - 3 * GAP;
        double lane = (height - TOP - BOTTOM - GAP) / 2;
        double most = most();
        lane(g, "right ascension", GuideSample::raArcsec, GuideSample::raPulseMs, TOP, right, lane, most, cool());
        lane(
                g,
                "declination",
                GuideSample::decArcsec,
                GuideSample::decPulseMs,
                TOP + lane + GAP,
                right,
                lane,
                most,
                accent());
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText("0 s", LEFT, height - 8);
        g.setTextAlign(TextAlignment.RIGHT);
        g.fillText(
                Words.format(
                        "%.0f s", seconds(state.samples().get(state.samples().size() - 1))),
                right,
                height - 8);
        pixel(g, width - side - GAP, TOP, side);
    }

    /** What both lanes reach to: half a pixel at least, so that a quiet trace looks quiet. */
    private double most() {
        double most = state.pixelArcsec() * 0.6;
        for (GuideSample s : state.samples()) {
            most = Math.max(most, Math.max(Math.abs(s.raArcsec()), Math.abs(s.decArcsec())));
        }
        return most;
    }

    private double seconds(GuideSample s) {
        return Duration.between(state.samples().get(0).time(), s.time()).toMillis() / 1000.0;
    }

    private void lane(
            GraphicsContext g,
            String name,
            ToDoubleFunction<GuideSample> axis,
            ToDoubleFunction<GuideSample> pulse,
            double top,
            double right,
            double high,
            double most,
            Color ink) {
        double pulses = high * PULSES_SHARE;
        double middle = top + NAME + (high - NAME - pulses) / 2;
        double perArcsec = (high - NAME - pulses) / 2 / most;
        double span = Math.max(1, seconds(state.samples().get(state.samples().size() - 1)));
        double perSecond = (right - LEFT) / span;
        for (Excursion e : state.excursions()) {
            g.setFill(faded(alert(), 0.22));
            g.fillRect(LEFT + e.fromSeconds() * perSecond - 2, top + NAME, e.seconds() * perSecond + 4, high - NAME);
        }
        g.setStroke(second());
        g.setLineWidth(2);
        for (double at : state.changes()) {
            g.strokeLine(LEFT + at * perSecond, top + NAME, LEFT + at * perSecond, top + high);
        }
        double half = state.pixelArcsec() / 2 * perArcsec;
        g.setFill(faded(good(), 0.14));
        g.fillRect(LEFT, middle - half, right - LEFT, 2 * half);
        g.setStroke(line());
        g.setLineWidth(1);
        g.strokeLine(LEFT, middle, right, middle);
        g.setStroke(ink);
        g.setLineWidth(1.6);
        g.beginPath();
        for (int i = 0; i < state.samples().size(); i++) {
            GuideSample s = state.samples().get(i);
            double x = LEFT + seconds(s) * perSecond;
            double y = middle - axis.applyAsDouble(s) * perArcsec;
            if (i == 0) {
                g.moveTo(x, y);
            } else {
                g.lineTo(x, y);
            }
        }
        g.stroke();
        pulses(g, pulse, LEFT, perSecond, top + high - pulses / 2, pulses / 2 - 2);
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(name, LEFT, top + 10);
        g.setFill(dim());
        g.setTextAlign(TextAlignment.RIGHT);
        g.fillText(Words.format("± %.1f″", most), LEFT - 6, middle + 5);
        g.fillText("pulses", LEFT - 6, top + high - pulses / 2 + 5);
    }

    /** Each pulse as a bar from the line: its length is how long the motor ran, its side which way. */
    private void pulses(
            GraphicsContext g,
            ToDoubleFunction<GuideSample> pulse,
            double left,
            double perSecond,
            double line,
            double high) {
        double longest = state.samples().stream()
                .mapToDouble(s -> Math.abs(pulse.applyAsDouble(s)))
                .max()
                .orElse(0);
        g.setStroke(line());
        g.strokeLine(
                left,
                line,
                left + perSecond * seconds(state.samples().get(state.samples().size() - 1)),
                line);
        if (longest <= 0) {
            return;
        }
        g.setFill(second());
        for (GuideSample s : state.samples()) {
            double tall = pulse.applyAsDouble(s) / longest * high;
            g.fillRect(left + seconds(s) * perSecond - 1.5, tall > 0 ? line - tall : line, 3, Math.abs(tall));
        }
    }

    /** The star's way over a pixel of the main camera, drawn to scale; more pixels where it strayed over more. */
    private void pixel(GraphicsContext g, double left, double top, double side) {
        double reach = state.samples().stream()
                .mapToDouble(s -> Math.max(Math.abs(s.raArcsec()), Math.abs(s.decArcsec())))
                .max()
                .orElse(0);
        double pixels = Math.min(WIDEST_PIXELS, Math.max(1, Math.ceil(2 * reach / state.pixelArcsec())));
        double perPixel = side / (pixels + 0.4);
        double x = left + side / 2;
        double y = top + side / 2;
        g.setStroke(line());
        g.setLineWidth(1);
        for (double k = -pixels / 2; k <= pixels / 2 + 1e-9; k++) {
            g.strokeLine(x + k * perPixel, y - pixels / 2 * perPixel, x + k * perPixel, y + pixels / 2 * perPixel);
            g.strokeLine(x - pixels / 2 * perPixel, y + k * perPixel, x + pixels / 2 * perPixel, y + k * perPixel);
        }
        g.setStroke(text());
        g.setLineWidth(1.8);
        g.strokeRect(x - perPixel / 2, y - perPixel / 2, perPixel, perPixel);
        double perArcsec = perPixel / state.pixelArcsec();
        g.save();
        g.beginPath();
        g.rect(left, top, side, side);
        g.clip();
        g.setStroke(faded(cool(), 0.55));
        g.setLineWidth(1.2);
        g.beginPath();
        for (int i = 0; i < state.samples().size(); i++) {
            GuideSample s = state.samples().get(i);
            double px = x + s.raArcsec() * perArcsec;
            double py = y - s.decArcsec() * perArcsec;
            if (i == 0) {
                g.moveTo(px, py);
            } else {
                g.lineTo(px, py);
            }
        }
        g.stroke();
        g.setFill(accent());
        for (GuideSample s : state.samples()) {
            g.fillOval(x + s.raArcsec() * perArcsec - 2, y - s.decArcsec() * perArcsec - 2, 4, 4);
        }
        g.restore();
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setTextAlign(TextAlignment.CENTER);
        g.fillText(Words.format("a pixel: %.2f″", state.pixelArcsec()), x, top + side + 18);
    }
}
