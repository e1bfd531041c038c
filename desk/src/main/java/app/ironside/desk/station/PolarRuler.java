package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.journal.AxisMeasured;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;

/**
 * Where the axis stands against the pole, as the person at the mount sees it: up is up, right is east. The rings are a ruler that
 * grows finer as the error shrinks.
 */
public final class PolarRuler extends DrawnPane {
    private static final double[] RINGS = {0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 60, 120, 300};

    private List<AxisMeasured> measured = List.of();
    private double limitArcmin = 1;
    private String advice = "";

    PolarRuler() {
        getStyleClass().add("polar-ruler");
        setMinSize(200, 200);
    }

    void show(List<AxisMeasured> errors, double limit, String knobs) {
        measured = errors;
        limitArcmin = limit;
        advice = knobs;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        if (measured.isEmpty()) {
            return;
        }
        double cx = width / 2;
        double cy = height / 2;
        double reach = Math.min(width, height - 110) / 2 - 16;
        AxisMeasured last = measured.get(measured.size() - 1);
        double total = last.totalErrorArcmin();
        double outer = RINGS[RINGS.length - 1];
        for (int i = RINGS.length - 1; i >= 0; i--) {
            outer = RINGS[i] >= Math.max(total * 1.25, limitArcmin * 1.2) ? RINGS[i] : outer;
        }
        g.setTextAlign(TextAlignment.LEFT);
        for (double ring : RINGS) {
            if (ring <= outer * 1.001 && ring > outer / 30) {
                double r = ring / outer * reach;
                g.setStroke(line());
                g.setLineWidth(1);
                g.strokeOval(cx - r, cy - r, 2 * r, 2 * r);
                g.setFill(dim());
                if (r > 26) {
                    g.fillText(
                            ring >= 60 ? Words.format("%.0f°", ring / 60) : Words.format("%s′", plain(ring)),
                            cx + r * 0.71 + 3,
                            cy - r * 0.71);
                }
            }
        }
        double allowed = Math.min(reach, limitArcmin / outer * reach);
        g.setFill(faded(good(), 0.22));
        g.fillOval(cx - allowed, cy - allowed, 2 * allowed, 2 * allowed);
        g.setStroke(line());
        g.strokeLine(cx - reach, cy, cx + reach, cy);
        g.strokeLine(cx, cy - reach, cx, cy + reach);
        g.setFill(dim());
        g.setTextAlign(TextAlignment.CENTER);
        g.fillText("up", cx, cy - reach - 5);
        g.setTextAlign(TextAlignment.RIGHT);
        g.fillText("east", cx + reach - 5, cy + 16);
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText("west", cx - reach + 5, cy + 16);
        path(g, cx, cy, reach / outer);
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 26));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(Words.format(total >= 2 ? "%.1f′" : "%.2f′", total), 16, 34);
        g.setFont(Font.font("IBM Plex Sans", 14));
        g.setFill(dim());
        g.fillText("from the pole", 100, 34);
        g.setFill(accent());
        g.setTextAlign(TextAlignment.CENTER);
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
        List<String> lines = inTwo(advice, width - 20, g.getFont());
        for (int i = 0; i < lines.size(); i++) {
            g.fillText(lines.get(i), cx, height - 14 - 20 * (lines.size() - 1 - i), width - 20);
        }
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

    private static String plain(double value) {
        return value < 1 ? Words.format("%.1f", value) : Words.format("%.0f", value);
    }

    private void path(GraphicsContext g, double cx, double cy, double pxPerArcmin) {
        double[] before = null;
        for (int i = 0; i < measured.size(); i++) {
            AxisMeasured e = measured.get(i);
            double x = cx + e.azimuthErrorArcmin() * pxPerArcmin;
            double y = cy - e.altitudeErrorArcmin() * pxPerArcmin;
            if (before != null) {
                g.setStroke(faded(second(), 0.6));
                g.setLineWidth(1.4);
                g.setLineDashes(5, 4);
                g.strokeLine(clamp(before[0], cx), clamp(before[1], cy), x, y);
                g.setLineDashes();
            }
            boolean last = i == measured.size() - 1;
            g.setFill(last ? accent() : faded(second(), 0.7));
            double r = last ? 8 : 4;
            if (Math.abs(x - cx) < 3000 && Math.abs(y - cy) < 3000) {
                g.fillOval(x - r, y - r, 2 * r, 2 * r);
            }
            before = new double[] {x, y};
        }
    }

    private static double clamp(double value, double centre) {
        return Math.max(centre - 4000, Math.min(centre + 4000, value));
    }
}
