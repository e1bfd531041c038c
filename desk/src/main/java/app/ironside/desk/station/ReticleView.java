package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.polar.PolarReticle.ReticleStar;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/** What belongs in the eyepiece of a polar scope at this minute: the cross, hours around it, and the stars where they are to be put. */
public final class ReticleView extends DrawnPane {
    private List<ReticleStar> stars = List.of();

    ReticleView() {
        setMinSize(220, 220);
    }

    void show(List<ReticleStar> next) {
        if (!next.equals(stars)) {
            stars = next;
            stale();
        }
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        if (stars.isEmpty()) {
            return;
        }
        double farthest =
                stars.stream().mapToDouble(ReticleStar::distanceArcmin).max().orElse(40);
        double x = width / 2;
        double y = height / 2 + 8;
        double radius = Math.min(width, height - 20) / 2 - 34;
        double scale = radius / (farthest * 1.25);
        g.setStroke(line());
        g.setLineWidth(1);
        g.strokeOval(x - radius, y - radius, 2 * radius, 2 * radius);
        g.setFill(dim());
        g.setTextAlign(TextAlignment.CENTER);
        for (int hour = 1; hour <= 12; hour++) {
            double a = Math.toRadians(30 * hour);
            double out = hour % 3 == 0 ? 12 : 7;
            g.strokeLine(
                    x + Math.sin(a) * radius,
                    y - Math.cos(a) * radius,
                    x + Math.sin(a) * (radius - out),
                    y - Math.cos(a) * (radius - out));
            g.fillText("" + hour, x + Math.sin(a) * (radius + 14), y - Math.cos(a) * (radius + 14) + 5);
        }
        g.setStroke(dim());
        g.strokeLine(x - 9, y, x + 9, y);
        g.strokeLine(x, y - 9, x, y + 9);
        for (ReticleStar star : stars) {
            double a = Math.toRadians(30 * star.clockHours());
            double r = star.distanceArcmin() * scale;
            g.setStroke(faded(accent(), 0.35));
            g.strokeOval(x - r, y - r, 2 * r, 2 * r);
            double size = Math.max(4, 11 - star.star().magnitude());
            g.setFill(accent());
            g.fillOval(x + Math.sin(a) * r - size / 2, y - Math.cos(a) * r - size / 2, size, size);
        }
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 24));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(stars.get(0).clock(), 16, 32);
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setFill(dim());
        g.fillText(Words.format("%.0f′ from the cross", stars.get(0).distanceArcmin()), 16, 52);
    }
}
