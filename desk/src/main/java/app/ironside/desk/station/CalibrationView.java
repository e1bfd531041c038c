package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.guide.CalibrationReport.Place;
import app.ironside.journal.GuiderCalibrated;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/**
 * How a guider was calibrated: the star's way on the guide camera for pulses along each axis and back, with the line through it, and beside
 * it what that says of rates, angle and slack.
 */
final class CalibrationView extends DrawnPane {
    private static final double LINE = 24;
    private static final double WORDS_SHARE = 0.42;

    private Optional<GuiderCalibrated> shown = Optional.empty();

    CalibrationView() {
        getStyleClass().add("plot");
        setId("calibration-view");
        setMinSize(240, 160);
        setAccessibleText("The guide star's way during calibration, and the rates that follow");
    }

    void show(Optional<GuiderCalibrated> next) {
        shown = next;
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
        g.fillText("Calibration", 16, 24);
        Optional<GuiderCalibrated.Details> details = shown.flatMap(GuiderCalibrated::details);
        if (details.isEmpty()) {
            g.setFill(dim());
            g.setFont(Font.font("IBM Plex Sans", 14));
            g.fillText(shown.isEmpty() ? "Not calibrated yet." : "This journal does not tell how it went.", 16, 52);
            return;
        }
        double side = Math.min(width * (1 - WORDS_SHARE), height - 44);
        way(g, details.get(), 16, 36, side);
        words(g, shown.get(), details.get(), side + 40, 64);
    }

    private void way(GraphicsContext g, GuiderCalibrated.Details d, double left, double top, double side) {
        List<Place> all = new ArrayList<>(d.west());
        all.addAll(d.north());
        if (all.isEmpty()) {
            return;
        }
        double x0 = all.stream().mapToDouble(Place::x).min().orElseThrow();
        double x1 = all.stream().mapToDouble(Place::x).max().orElseThrow();
        double y0 = all.stream().mapToDouble(Place::y).min().orElseThrow();
        double y1 = all.stream().mapToDouble(Place::y).max().orElseThrow();
        double reach = Math.max(2, Math.max(x1 - x0, y1 - y0)) * 1.15;
        double scale = side / reach;
        double cx = (x0 + x1) / 2;
        double cy = (y0 + y1) / 2;
        g.setStroke(line());
        g.setLineWidth(1);
        g.strokeRect(left, top, side, side);
        places(g, d.west(), cool(), left + side / 2, top + side / 2, cx, cy, scale);
        places(g, d.north(), accent(), left + side / 2, top + side / 2, cx, cy, scale);
    }

    /** Forth as dots that are filled, back as rings, so that slack shows where they part. */
    private void places(
            GraphicsContext g,
            List<Place> way,
            Color ink,
            double left,
            double top,
            double cx,
            double cy,
            double scale) {
        if (way.isEmpty()) {
            return;
        }
        Place first = way.get(0);
        int turn = 0;
        for (int i = 1; i < way.size(); i++) {
            turn = distance(way.get(i), first) > distance(way.get(turn), first) ? i : turn;
        }
        g.setStroke(faded(ink, 0.6));
        g.setLineWidth(1.4);
        Place far = way.get(turn);
        g.strokeLine(
                left + (first.x() - cx) * scale,
                top - (first.y() - cy) * scale,
                left + (far.x() - cx) * scale,
                top - (far.y() - cy) * scale);
        for (int i = 0; i < way.size(); i++) {
            double x = left + (way.get(i).x() - cx) * scale;
            double y = top - (way.get(i).y() - cy) * scale;
            if (i <= turn) {
                g.setFill(ink);
                g.fillOval(x - 4, y - 4, 8, 8);
            } else {
                g.setStroke(ink);
                g.setLineWidth(1.6);
                g.strokeOval(x - 5, y - 5, 10, 10);
            }
        }
    }

    private static double distance(Place a, Place b) {
        return Math.hypot(a.x() - b.x(), a.y() - b.y());
    }

    private void words(GraphicsContext g, GuiderCalibrated c, GuiderCalibrated.Details d, double left, double top) {
        double west = Math.hypot(c.westX(), c.westY()) * d.arcsecPerPixel();
        double north = Math.hypot(c.northX(), c.northY()) * d.arcsecPerPixel();
        List<String[]> rows = List.of(
                new String[] {
                    "right ascension",
                    Words.format("%.2f″/s, %.0f %% of the kit's", west, 100 * west / d.expectedWest())
                },
                new String[] {
                    "declination", Words.format("%.2f″/s, %.0f %% of the kit's", north, 100 * north / d.expectedNorth())
                },
                new String[] {"axes", Words.format("%.1f° apart", c.axesAngleDeg())},
                new String[] {"off the lines", Words.format("%.2f px", d.residualPx())},
                new String[] {
                    "slack",
                    d.slackSeconds() > 0
                            ? Words.format("%.0f ms, %.1f″", 1000 * d.slackSeconds(), d.slackSeconds() * north)
                            : "none to be seen"
                },
                new String[] {"measured at", Words.format("%.0f° declination", d.declinationDeg())},
                new String[] {"", d.kept() ? "an earlier night's, found true" : "filled: forth; ring: back"});
        double y = top;
        for (String[] row : rows) {
            g.setFont(Font.font("IBM Plex Sans", 13));
            g.setFill(dim());
            g.fillText(row[0], left, y);
            g.setFill(text());
            g.setFont(Font.font("IBM Plex Sans", 15));
            g.fillText(row[1], left + 118, y);
            y += LINE;
        }
        g.setFill(cool());
        g.fillRect(left - 14, top - 10, 5, 12);
        g.setFill(accent());
        g.fillRect(left - 14, top + LINE - 10, 5, 12);
    }
}
