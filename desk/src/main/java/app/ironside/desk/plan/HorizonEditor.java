package app.ironside.desk.plan;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.sky.Horizon;
import app.ironside.sky.Horizontal;
import app.ironside.sky.LightDome;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/** The skyline as a panorama: drag a point, double-click to add one, right-click to remove one. */
public final class HorizonEditor extends DrawnPane {
    private static final double LEFT = 40;
    private static final double RIGHT = 12;
    private static final double TOP = 34;
    private static final double BOTTOM = 24;
    private static final double HIGHEST = 60;
    private static final double NEAR_PX = 12;

    private final List<Horizontal> points = new ArrayList<>();
    private final Consumer<Horizon> onChange;
    private double marginDeg;
    private Optional<LightDome> dome = Optional.empty();
    private int held = -1;

    HorizonEditor(Consumer<Horizon> onChange) {
        this.onChange = onChange;
        getStyleClass().add("plot");
        setId("horizon-editor");
        setMinSize(200, 150);
        setPrefHeight(210);
        setOnMousePressed(this::pressed);
        setOnMouseDragged(this::dragged);
        setOnMouseReleased(e -> held = -1);
    }

    void show(Horizon horizon, double margin, Optional<LightDome> town) {
        if (held < 0) {
            points.clear();
            points.addAll(horizon.points());
        }
        marginDeg = margin;
        dome = town;
        stale();
    }

    private double x(double azimuth) {
        return LEFT + azimuth / 360 * (getWidth() - LEFT - RIGHT);
    }

    private double y(double altitude) {
        return getHeight() - BOTTOM - altitude / HIGHEST * (getHeight() - TOP - BOTTOM);
    }

    private Horizontal at(double px, double py) {
        double azimuth = (px - LEFT) / (getWidth() - LEFT - RIGHT) * 360;
        double altitude = (getHeight() - BOTTOM - py) / (getHeight() - TOP - BOTTOM) * HIGHEST;
        return new Horizontal(
                Math.round(Math.max(0, Math.min(359, azimuth))),
                Math.round(Math.max(0, Math.min(HIGHEST, altitude)) * 2) / 2.0);
    }

    private int near(MouseEvent e) {
        for (int i = 0; i < points.size(); i++) {
            Horizontal p = points.get(i);
            if (Math.hypot(x(p.azimuthDeg()) - e.getX(), y(p.altitudeDeg()) - e.getY()) < NEAR_PX) {
                return i;
            }
        }
        return -1;
    }

    private void pressed(MouseEvent e) {
        held = near(e);
        if (held >= 0 && e.getButton() == MouseButton.SECONDARY && points.size() > 1) {
            points.remove(held);
            held = -1;
            tell();
        } else if (held < 0 && e.getClickCount() == 2) {
            points.add(at(e.getX(), e.getY()));
            tell();
        }
    }

    private void dragged(MouseEvent e) {
        if (held >= 0) {
            points.set(held, at(e.getX(), e.getY()));
            tell();
        }
    }

    private void tell() {
        onChange.accept(new Horizon(points));
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
        g.setFill(text());
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText("Skyline", 16, 22);
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setFill(dim());
        g.fillText("drag a point, double-click adds one, right-click removes one", 80, 22);
        if (points.isEmpty()) {
            return;
        }
        dome.ifPresent(d -> {
            for (int az = 0; az < 360; az += 2) {
                double share = Math.min(1, d.share(new Horizontal(az, 10)) / 3);
                g.setFill(faded(third(), 0.3 * share));
                g.fillRect(x(az), TOP, x(2) - x(0) + 0.5, height - TOP - BOTTOM);
            }
        });
        Horizon horizon = new Horizon(points);
        double[] xs = new double[363];
        double[] ys = new double[363];
        double[] margin = new double[363];
        for (int az = 0; az <= 360; az++) {
            xs[az] = x(az);
            ys[az] = y(Math.min(HIGHEST, horizon.altitudeDeg(az)));
            margin[az] = y(Math.min(HIGHEST, horizon.altitudeDeg(az) + marginDeg));
        }
        xs[361] = x(360);
        ys[361] = height - BOTTOM;
        xs[362] = x(0);
        ys[362] = height - BOTTOM;
        g.setFill(faded(dim(), 0.35));
        g.fillPolygon(xs, ys, 363);
        g.setStroke(text());
        g.setLineWidth(1.8);
        g.strokePolyline(xs, ys, 361);
        g.setStroke(faded(accent(), 0.8));
        g.setLineWidth(1);
        g.setLineDashes(4, 3);
        g.strokePolyline(xs, margin, 361);
        g.setLineDashes();
        g.setFill(accent());
        for (Horizontal p : points) {
            g.fillOval(x(p.azimuthDeg()) - 6, y(Math.min(HIGHEST, p.altitudeDeg())) - 6, 12, 12);
        }
        g.setFill(dim());
        g.setTextAlign(TextAlignment.CENTER);
        String[] names = {"N", "NE", "E", "SE", "S", "SW", "W", "NW", "N"};
        for (int i = 0; i < names.length; i++) {
            g.fillText(names[i], Math.min(width - 12, x(i * 45.0)), height - 7);
        }
        g.setTextAlign(TextAlignment.RIGHT);
        for (int altitude = 0; altitude <= HIGHEST; altitude += 20) {
            g.setStroke(faded(line(), 0.7));
            g.strokeLine(LEFT, y(altitude), width - RIGHT, y(altitude));
            g.fillText(altitude + "°", LEFT - 6, y(altitude) + 4);
        }
    }
}
