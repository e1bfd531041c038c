package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.focus.SweepZones;
import app.ironside.focus.SweepZones.Zone;
import java.util.Optional;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/**
 * Where middle and corners of the field are in focus: each a bar beside its place, up where it focuses farther out than what serves all,
 * with the critical zone as a band across it.
 */
final class ZonesView extends DrawnPane {
    private static final double BAR = 22;

    private Optional<SweepZones> shown = Optional.empty();
    private double stepUm = 1;
    private double zoneSteps = 1;

    ZonesView() {
        getStyleClass().add("plot");
        setId("zones-view");
        setMinSize(240, 160);
        setAccessibleText("Best focus of the middle and the corners of the field");
    }

    void show(Optional<SweepZones> next, double umPerStep, double halfZoneSteps) {
        shown = next;
        stepUm = umPerStep;
        zoneSteps = halfZoneSteps;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        g.setTextBaseline(VPos.BASELINE);
        g.setTextAlign(TextAlignment.LEFT);
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
        g.fillText("Corners", 16, 24);
        if (shown.isEmpty()) {
            g.setFill(dim());
            g.setFont(Font.font("IBM Plex Sans", 14));
            g.fillText("A sweep with enough stars in the corners shows this.", 16, 52);
            return;
        }
        double most = zoneSteps * 1.5;
        for (Zone z : shown.get().zones()) {
            most = Math.max(most, Math.abs(z.position() - shown.get().compromise()));
        }
        double h = height - 78;
        double w = Math.min(width - 60, 3 * h);
        double left = (width - w) / 2;
        double top = 36;
        g.setStroke(line());
        g.setLineWidth(1.5);
        g.strokeRect(left, top, w, h);
        double tall = h * 0.2;
        for (Zone z : shown.get().zones()) {
            double x = left + w * x(z.part());
            double y = top + h * (1 - y(z.part()));
            zone(g, z, x, y, tall, most);
        }
        g.setTextAlign(TextAlignment.LEFT);
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.fillText(
                Words.format(
                        "Up is farther out. The band is the critical zone, ± %.0f µm, about %.0f steps, which serve all.",
                        zoneSteps * stepUm, shown.get().compromise()),
                16,
                height - 14);
    }

    private void zone(GraphicsContext g, Zone z, double x, double y, double tall, double most) {
        double off = z.position() - shown.orElseThrow().compromise();
        double scale = tall / most;
        g.setFill(faded(good(), 0.22));
        g.fillRect(x - BAR, y - zoneSteps * scale, 2 * BAR, 2 * zoneSteps * scale);
        g.setStroke(line());
        g.setLineWidth(1);
        g.strokeLine(x - BAR, y, x + BAR, y);
        boolean inside = Math.abs(off) <= zoneSteps;
        g.setFill(inside ? cool() : alert());
        double end = y - off * scale;
        g.fillRect(x - BAR / 3, Math.min(y, end), 2 * BAR / 3, Math.max(2, Math.abs(end - y)));
        g.setStroke(text());
        g.strokeLine(x, end - z.sigma() * scale, x, end + z.sigma() * scale);
        g.setTextAlign(TextAlignment.LEFT);
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
        g.fillText(Words.format("%+.0f µm", off * stepUm), x + BAR + 6, y - 2);
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.fillText(Words.format("%.2f px", z.sizePx()), x + BAR + 6, y + 15);
    }

    private static double x(SweepZones.Part part) {
        return switch (part) {
            case MIDDLE -> 0.5;
            case BOTTOM_LEFT, TOP_LEFT -> 0.14;
            case BOTTOM_RIGHT, TOP_RIGHT -> 0.80;
        };
    }

    private static double y(SweepZones.Part part) {
        return switch (part) {
            case MIDDLE -> 0.5;
            case BOTTOM_LEFT, BOTTOM_RIGHT -> 0.2;
            case TOP_LEFT, TOP_RIGHT -> 0.8;
        };
    }
}
