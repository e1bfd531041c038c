package app.ironside.desk.inspect;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.star.FieldMap;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/** The nine zones of a frame, each with the shape of its stars drawn large and their size in figures. */
public final class FieldMapView extends DrawnPane {
    private Optional<FieldMap> map = Optional.empty();

    FieldMapView() {
        setMinSize(200, 170);
    }

    /** Nothing is shown until the next file is measured. */
    void clear() {
        map = Optional.empty();
        stale();
    }

    boolean isEmpty() {
        return map.isEmpty();
    }

    void show(FieldMap next) {
        map = Optional.of(next);
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        if (map.isEmpty()) {
            return;
        }
        double least = map.get().zones().stream()
                .filter(z -> z.stars() > 0)
                .mapToDouble(FieldMap.Zone::halfFluxRadiusPx)
                .min()
                .orElse(1);
        double w = (width - 24) / 3;
        double h = (height - 24) / 3;
        for (FieldMap.Zone z : map.get().zones()) {
            double left = 12 + z.column() * w;
            double top = 12 + (2 - z.row()) * h;
            g.setStroke(line());
            g.strokeRect(left + 1.5, top + 1.5, w - 3, h - 3);
            g.setTextAlign(TextAlignment.CENTER);
            if (z.stars() == 0) {
                g.setFill(dim());
                g.fillText("no star", left + w / 2, top + h / 2);
                continue;
            }
            double growth = z.halfFluxRadiusPx() / least;
            shape(g, z, left + w / 2, top + h / 2 - 9, Math.min(w, h) * 0.22 * Math.min(2, growth * growth));
            g.setFill(growth > 1.15 ? alert() : text());
            g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
            g.fillText(Words.format("%.2f px", z.halfFluxRadiusPx()), left + w / 2, top + h - 10);
            g.setFont(Font.font("IBM Plex Sans", 13));
        }
    }

    /** The mean star, its elongation drawn three times as large as it is. */
    private void shape(GraphicsContext g, FieldMap.Zone z, double x, double y, double radius) {
        double shown = Math.min(0.75, 3 * z.elongation());
        double a = radius / Math.sqrt(1 - shown);
        double b = radius * Math.sqrt(1 - shown);
        g.save();
        g.translate(x, y);
        g.rotate(-z.angleDeg());
        g.setFill(faded(z.elongation() > 0.12 ? alert() : accent(), 0.85));
        g.fillOval(-a, -b, 2 * a, 2 * b);
        g.restore();
    }
}
