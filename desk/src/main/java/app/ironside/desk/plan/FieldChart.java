package app.ironside.desk.plan;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.plan.Framing;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.TangentPlane;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;

/** A chart of the sky with the camera's field on it: drag the field to move it, its handle to turn it, turn the wheel for single degrees. */
public final class FieldChart extends DrawnPane {
    private static final double HANDLE = 9;
    private static final double FIELD_SHARE = 0.62;
    private static final int NAMED = 14;

    /**
     * What a chart shows, gathered before.
     *
     * @param framing the field, and with it the middle of the chart
     * @param panels of a mosaic; the field alone if there is one
     * @param objects around, the subject first
     * @param stars around, those beyond the catalogue invented
     * @param guides off-axis fields by side of the meridian
     */
    record State(
            Framing framing,
            List<Framing> panels,
            List<DeepSkyObject> objects,
            List<CatalogueStar> stars,
            List<Guide> guides,
            boolean invented) {}

    /** An off-axis guide field, and the frame it belongs to. */
    record Guide(Framing frame, Framing.GuideField field, boolean afterFlip) {}

    private Optional<State> state = Optional.empty();
    private Consumer<Framing> onFraming = f -> {};
    private boolean turning;
    private double fromX;
    private double fromY;
    private Framing start;
    private TangentPlane plane;
    private double pxPerDeg;

    FieldChart() {
        getStyleClass().add("plot");
        setMinSize(160, 140);
        setOnMousePressed(this::pressed);
        setOnMouseDragged(this::dragged);
        setOnScroll(this::turned);
    }

    void setOnFraming(Consumer<Framing> handler) {
        onFraming = handler;
    }

    void show(Optional<State> next) {
        state = next;
        stale();
    }

    private void pressed(MouseEvent e) {
        if (state.isEmpty() || plane == null) {
            return;
        }
        start = state.get().framing();
        fromX = e.getX();
        fromY = e.getY();
        double[] handle = handle();
        turning = Math.hypot(e.getX() - handle[0], e.getY() - handle[1]) < 2.2 * HANDLE;
    }

    private void dragged(MouseEvent e) {
        if (start == null) {
            return;
        }
        if (turning) {
            double angle = Math.toDegrees(Math.atan2(-(e.getX() - getWidth() / 2), -(e.getY() - getHeight() / 2)));
            onFraming.accept(new Framing(start.kit(), start.centre(), Math.round(angle)));
        } else {
            // The chart follows the field, so the sky under the pointer moves the other way.
            Equatorial centre = new TangentPlane(start.centre())
                    .unproject((e.getX() - fromX) / pxPerDeg, (e.getY() - fromY) / pxPerDeg);
            onFraming.accept(new Framing(start.kit(), centre, start.angleDeg()));
        }
    }

    private void turned(ScrollEvent e) {
        state.ifPresent(s -> onFraming.accept(new Framing(
                s.framing().kit(), s.framing().centre(), s.framing().angleDeg() + Math.signum(e.getDeltaY()))));
        e.consume();
    }

    private double[] handle() {
        Framing f = state.orElseThrow().framing();
        return at(f.at(new Framing.Point(0, f.kit().fieldHeightDeg() / 2)));
    }

    /** North up, east left. */
    private double[] at(Equatorial sky) {
        return plane.project(sky)
                .map(p -> new double[] {getWidth() / 2 - p.xiDeg() * pxPerDeg, getHeight() / 2 - p.etaDeg() * pxPerDeg})
                .orElse(new double[] {-1e4, -1e4});
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        if (state.isEmpty()) {
            g.setFill(dim());
            g.setTextAlign(TextAlignment.CENTER);
            g.fillText("Choose a target to see its field.", width / 2, height / 2);
            return;
        }
        State s = state.get();
        plane = new TangentPlane(s.framing().centre());
        pxPerDeg = FIELD_SHARE * Math.min(width, height) / extent(s);
        g.save();
        g.beginPath();
        g.rect(0, 0, width, height);
        g.clip();
        drawStars(g, s, width, height);
        drawObjects(g, s, width, height);
        s.guides().forEach(guide -> drawGuide(g, guide));
        for (Framing panel : s.panels()) {
            outline(g, panel.corners(), accent(), s.panels().size() > 1 ? 1.2 : 2.2);
        }
        if (s.panels().size() > 1) {
            outline(g, s.framing().corners(), faded(text(), 0.5), 1);
        }
        drawHandle(g);
        legend(g, s, width, height);
        g.restore();
    }

    private static double extent(State s) {
        double most = 2 * s.framing().kit().fieldRadiusDeg();
        for (Framing panel : s.panels()) {
            most = Math.max(
                    most,
                    2 * panel.centre().separationDeg(s.framing().centre())
                            + 1.4 * panel.kit().fieldRadiusDeg());
        }
        return most;
    }

    private void drawStars(GraphicsContext g, State s, double width, double height) {
        for (CatalogueStar star : s.stars()) {
            double[] p = at(star.position());
            if (p[0] < -20 || p[1] < -20 || p[0] > width + 20 || p[1] > height + 20) {
                continue;
            }
            double radius = Math.max(0.5, 4.6 - 0.42 * star.magnitude());
            boolean invented = star.name().equals("invented");
            g.setFill(faded(text(), invented ? 0.35 : 0.9));
            g.fillOval(p[0] - radius, p[1] - radius, 2 * radius, 2 * radius);
            if (star.magnitude() < 4.6) {
                g.setStroke(alert());
                g.setLineWidth(1.2);
                g.strokeOval(p[0] - 9, p[1] - 9, 18, 18);
                g.setFill(alert());
                g.setTextAlign(TextAlignment.LEFT);
                g.fillText(Words.format("star %.1f", star.magnitude()), p[0] + 12, p[1] - 6);
            }
        }
    }

    private void drawObjects(GraphicsContext g, State s, double width, double height) {
        int named = 0;
        List<double[]> taken = new ArrayList<>();
        for (DeepSkyObject o : s.objects()) {
            double[] p = at(o.position());
            double radius = Math.max(4, o.longAxisArcmin() / 120 * pxPerDeg);
            boolean subject = o == s.objects().get(0);
            if (p[0] < -radius
                    || p[1] < -radius
                    || p[0] > width + radius
                    || p[1] > height + radius
                    || radius > 3 * width) {
                continue;
            }
            g.setStroke(subject ? cool() : faded(second(), 0.8));
            g.setLineWidth(subject ? 1.8 : 1.1);
            g.setLineDashes(subject ? new double[0] : new double[] {3, 3});
            strokeShape(g, o, p, radius);
            g.setLineDashes();
            double y = p[1] + radius + 14;
            double[] middle = at(s.objects().get(0).position());
            double inside = s.objects().get(0).longAxisArcmin() / 120 * pxPerDeg;
            boolean within = !subject && Math.hypot(p[0] - middle[0], p[1] - middle[1]) < inside;
            boolean free =
                    !within && taken.stream().noneMatch(t -> Math.abs(t[0] - p[0]) < 74 && Math.abs(t[1] - y) < 14);
            if (subject || named < NAMED && free && y < height - 26) {
                g.setFill(subject ? cool() : second());
                g.setTextAlign(TextAlignment.CENTER);
                g.fillText(o.id(), p[0], Math.min(height - 30, y));
                taken.add(new double[] {p[0], y});
                named++;
            }
        }
    }

    /** An ellipse where it is known how the object lies, else a circle of its long axis; north is up and east to the left. */
    private static void strokeShape(GraphicsContext g, DeepSkyObject o, double[] middle, double radius) {
        double narrow = o.hasShape() ? radius * o.shortAxisArcmin() / o.longAxisArcmin() : radius;
        g.save();
        g.translate(middle[0], middle[1]);
        g.rotate(-o.positionAngleDeg().orElse(0.0));
        g.strokeOval(-narrow, -radius, 2 * narrow, 2 * radius);
        g.restore();
    }

    private void drawGuide(GraphicsContext g, Guide guide) {
        Framing.GuideField field = guide.field();
        double angle = guide.frame().kit().equipment().offAxis().orElseThrow().angleDeg();
        double cos = Math.cos(Math.toRadians(angle));
        double sin = Math.sin(Math.toRadians(angle));
        List<Equatorial> corners = new ArrayList<>();
        for (double[] c : new double[][] {{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}) {
            double across = c[0] * field.widthDeg() / 2;
            double along = c[1] * field.heightDeg() / 2;
            corners.add(guide.frame()
                    .at(new Framing.Point(
                            field.middle().xDeg() + across * cos + along * sin,
                            field.middle().yDeg() - across * sin + along * cos)));
        }
        outline(g, corners, guide.afterFlip() ? third() : good(), 1.6);
        for (CatalogueStar star : field.stars()) {
            double[] p = at(star.position());
            g.setStroke(guide.afterFlip() ? third() : good());
            g.strokeOval(p[0] - 5, p[1] - 5, 10, 10);
        }
        double[] p = at(guide.frame().at(field.middle()));
        g.setFill(guide.afterFlip() ? third() : good());
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(guide.afterFlip() ? "guide, after the flip" : "guide, before", p[0] + 34, p[1] + 4);
    }

    private void outline(GraphicsContext g, List<Equatorial> corners, Color color, double width) {
        double[] x = new double[corners.size()];
        double[] y = new double[corners.size()];
        for (int i = 0; i < x.length; i++) {
            double[] p = at(corners.get(i));
            x[i] = p[0];
            y[i] = p[1];
        }
        g.setStroke(color);
        g.setLineWidth(width);
        g.strokePolygon(x, y, x.length);
    }

    private void drawHandle(GraphicsContext g) {
        double[] h = handle();
        g.setFill(accent());
        g.fillOval(h[0] - HANDLE, h[1] - HANDLE, 2 * HANDLE, 2 * HANDLE);
        g.setStroke(night());
        g.setLineWidth(2);
        g.strokeArc(h[0] - 4.5, h[1] - 4.5, 9, 9, 30, 250, javafx.scene.shape.ArcType.OPEN);
    }

    private void legend(GraphicsContext g, State s, double width, double height) {
        g.setFill(dim());
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(
                s.invented() && width > 400 ? "N up, E left; faint stars are invented" : "N up, E left",
                10,
                height - 10);
        g.setTextAlign(TextAlignment.RIGHT);
        double bar = 0.5 * pxPerDeg;
        String length = bar > width / 2 ? "6′" : bar < 30 ? "2°" : "30′";
        double px = bar > width / 2 ? bar / 5 : bar < 30 ? bar * 4 : bar;
        g.setStroke(dim());
        g.setLineWidth(2);
        g.strokeLine(width - 12 - px, height - 14, width - 12, height - 14);
        g.fillText(length, width - 18 - px, height - 10);
    }
}
