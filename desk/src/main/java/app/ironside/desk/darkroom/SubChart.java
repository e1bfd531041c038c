package app.ironside.desk.darkroom;

import app.ironside.desk.parts.DrawnPane;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.function.BiConsumer;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.text.TextAlignment;

/** One measure of all lights beside each other, in the order of the sheet below: discs are kept, crosses are left out. */
final class SubChart extends DrawnPane {
    private static final double LEFT = 10;
    private static final double TOP = 24;
    private static final double FOOT = 8;
    private static final double RADIUS = 4;

    private final BiConsumer<Integer, Boolean> onPick;
    private List<JudgedLight> lights = List.of();
    private Set<Integer> chosen = Set.of();
    private SubMeasure measure = SubMeasure.WEIGHT;

    /**
     * @param onPick the place of the light that was clicked, and whether all up to it are meant
     */
    SubChart(BiConsumer<Integer, Boolean> onPick) {
        this.onPick = onPick;
        setId("sub-chart");
        setMinHeight(96);
        setPrefHeight(120);
        setOnMouseClicked(e -> {
            if (e.getButton() == MouseButton.PRIMARY && !lights.isEmpty()) {
                int at = (int) Math.round((e.getX() - LEFT) / step());
                onPick.accept(Math.max(0, Math.min(lights.size() - 1, at)), e.isShiftDown());
            }
        });
    }

    void show(List<JudgedLight> next, SubMeasure of) {
        lights = next;
        measure = of;
        stale();
    }

    void choose(Set<Integer> next) {
        chosen = next;
        stale();
    }

    private double step() {
        return Math.max(1e-6, (getWidth() - 2 * LEFT) / Math.max(1, lights.size() - 1));
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        double[] values =
                lights.stream().mapToDouble(l -> measure.of(l.grade())).toArray();
        double[] told = Arrays.stream(values).filter(v -> !Double.isNaN(v)).toArray();
        g.setTextBaseline(VPos.TOP);
        g.setTextAlign(TextAlignment.LEFT);
        g.setFill(dim());
        if (told.length == 0) {
            g.fillText(measure + ": not known of these lights", LEFT, 5);
            return;
        }
        double least = Arrays.stream(told).min().orElse(0);
        double most = Arrays.stream(told).max().orElse(1);
        g.fillText(measure + ", " + measure.words(least) + " to " + measure.words(most), LEFT, 5);
        double range = Math.max(1e-9, most - least);
        for (int i = 0; i < values.length; i++) {
            if (Double.isNaN(values[i])) {
                continue;
            }
            double x = LEFT + i * step();
            double y = height - FOOT - (height - TOP - FOOT) * (values[i] - least) / range;
            mark(g, lights.get(i).keep(), x, y);
            if (chosen.contains(i)) {
                g.setStroke(text());
                g.setLineWidth(1.5);
                g.strokeLine(x, TOP, x, height - 2);
                g.strokeOval(x - 2 * RADIUS, y - 2 * RADIUS, 4 * RADIUS, 4 * RADIUS);
            }
        }
    }

    private void mark(GraphicsContext g, boolean keep, double x, double y) {
        if (keep) {
            g.setFill(good());
            g.fillOval(x - RADIUS, y - RADIUS, 2 * RADIUS, 2 * RADIUS);
        } else {
            g.setStroke(alert());
            g.setLineWidth(2);
            g.strokeLine(x - RADIUS, y - RADIUS, x + RADIUS, y + RADIUS);
            g.strokeLine(x - RADIUS, y + RADIUS, x + RADIUS, y - RADIUS);
        }
    }
}
