package app.ironside.desk.picture;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.LabelRoom;
import app.ironside.desk.parts.Words;
import app.ironside.image.Frame;
import app.ironside.sky.Sexagesimal;
import app.ironside.solve.Wcs;
import app.ironside.star.Star;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.WritableImage;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.paint.Color;

/**
 * Shows a frame: drag pans, the wheel zooms to the cursor, a double click fits, and what is under the cursor is read out.
 */
public final class FrameView extends DrawnPane {
    /** Half the length of a line that is laid over a picture. */
    private static final double LINE_PX = 130;

    private static final double MOST_ZOOM = 24;
    private static final double STEP = 1.2;
    private static final double RESIDUAL_SCALE = 200;

    /** So close to it the curtain is meant, and not the picture. */
    private static final double CURTAIN_REACH_PX = 14;

    private PictureLevels picture;
    private Optional<Wcs> wcs = Optional.empty();
    private boolean marks;
    private Optional<SkyOverlay> overlay = Optional.empty();
    private List<double[]> lines = List.of();
    private BiConsumer<Double, Double> picked = (x, y) -> {};
    private boolean drawSky;
    private boolean drawResiduals;
    private final Map<Integer, WritableImage> images = new HashMap<>();

    /** What lies left of the curtain. */
    private Optional<PictureLevels> before = Optional.empty();

    private final Map<Integer, WritableImage> beforeImages = new HashMap<>();
    private double curtain = 0.5;
    private boolean movesCurtain;
    private Color imagesTint;
    private boolean fitted = true;
    private double zoom = 1;
    private double left;
    private double top;
    private double dragX;
    private double dragY;
    private Consumer<String> readout = text -> {};

    FrameView() {
        getStyleClass().add("frame-view");
        setMinSize(80, 80);
        setOnScroll(this::scrolled);
        setOnMousePressed(e -> {
            dragX = e.getX();
            dragY = e.getY();
            movesCurtain = before.isPresent() && Math.abs(e.getX() - curtain * getWidth()) < CURTAIN_REACH_PX;
        });
        setOnMouseDragged(this::dragged);
        setOnMouseMoved(e -> readOut(e.getX(), e.getY()));
        setOnMouseExited(e -> readout.accept(""));
        setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                fit();
            } else if (e.isStillSincePress()) {
                pick(e.getX(), e.getY());
            }
        });
    }

    /** Told where on the frame was clicked, pixels from 1 with y upward. */
    public void setOnPicked(BiConsumer<Double, Double> listener) {
        picked = listener;
    }

    private void pick(double viewX, double viewY) {
        if (picture != null) {
            Frame frame = picture.shown().frame();
            double x = (viewX - left) / zoom + 0.5;
            double y = frame.height() - (viewY - top) / zoom + 0.5;
            if (x >= 1 && y >= 1 && x <= frame.width() && y <= frame.height()) {
                picked.accept(x, y);
            }
        }
    }

    /**
     * Lines over the picture, each through a place in a direction.
     *
     * @param next x, y and angle in degrees, pixels from 1 with y upward
     */
    public void setLines(List<double[]> next) {
        lines = List.copyOf(next);
        stale();
    }

    /** Where the text under the cursor goes. */
    void setReadout(Consumer<String> where) {
        readout = where;
    }

    /** Whether measured stars are ringed. */
    public void setMarks(boolean ring) {
        marks = ring;
        stale();
    }

    /** What the sky writes over the picture: grid and objects, and how far each matched star is from its place. */
    public void setOverlay(Optional<SkyOverlay> next, boolean sky, boolean residuals) {
        overlay = next;
        drawSky = sky;
        drawResiduals = residuals;
        stale();
    }

    public boolean hasMarks() {
        return marks;
    }

    /** Shows a picture; the place looked at stays if the size is the same. */
    void show(PictureLevels next) {
        boolean sameSize = picture != null
                && picture.levels().get(0).width() == next.levels().get(0).width();
        picture = next;
        wcs = Wcs.from(next.shown().frame().header());
        images.clear();
        before = Optional.empty();
        beforeImages.clear();
        if (!sameSize) {
            fitted = true;
        }
        stale();
    }

    /** Shows two pictures of one size under a curtain that can be drawn: the first to its left. */
    void show(PictureLevels left, PictureLevels right) {
        show(right);
        before = Optional.of(left);
        stale();
    }

    /** Draws the curtain: 0 at the left edge, 1 at the right one. */
    void drawCurtain(double share) {
        curtain = Math.max(0.02, Math.min(0.98, share));
        stale();
    }

    /** World coordinates measured in the frame after it was written. */
    public void setWcs(Optional<Wcs> measured) {
        if (measured.isPresent()) {
            wcs = measured;
        }
    }

    void clear() {
        picture = null;
        before = Optional.empty();
        images.clear();
        beforeImages.clear();
        stale();
    }

    /** The whole frame. */
    public void fit() {
        fitted = true;
        stale();
    }

    public double zoom() {
        return zoom;
    }

    private void scrolled(ScrollEvent e) {
        if (picture != null && e.getDeltaY() != 0) {
            zoomAt(e.getX(), e.getY(), e.getDeltaY() > 0 ? STEP : 1 / STEP);
            e.consume();
        }
    }

    /** Zooms so that what is under a point stays there. */
    public void zoomAt(double x, double y, double factor) {
        double wanted = Math.max(0.05, Math.min(MOST_ZOOM, zoom * factor));
        left = x - (x - left) * wanted / zoom;
        top = y - (y - top) * wanted / zoom;
        zoom = wanted;
        fitted = false;
        readOut(x, y);
        stale();
    }

    private void dragged(MouseEvent e) {
        if (movesCurtain) {
            drawCurtain(e.getX() / getWidth());
            return;
        }
        left += e.getX() - dragX;
        top += e.getY() - dragY;
        dragX = e.getX();
        dragY = e.getY();
        fitted = false;
        stale();
    }

    private void readOut(double viewX, double viewY) {
        if (picture == null) {
            return;
        }
        Frame frame = picture.shown().frame();
        // FITS: the centre of the first pixel is 1, 1, and y grows upward.
        double x = (viewX - left) / zoom + 0.5;
        double y = frame.height() - (viewY - top) / zoom + 0.5;
        int column = (int) Math.round(x);
        int row = (int) Math.round(y);
        if (column < 1 || row < 1 || column > frame.width() || row > frame.height()) {
            readout.accept("");
            return;
        }
        String place = wcs.map(w -> w.toSky(x, y))
                .map(s -> "   " + Sexagesimal.text(s.raDeg(), s.decDeg()))
                .orElse("");
        readout.accept(Words.format("x %d  y %d   %.0f ADU%s", column, row, frame.at(column, row), place));
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(Color.BLACK);
        g.fillRoundRect(0, 0, width, height, 10, 10);
        if (picture == null) {
            return;
        }
        PictureLevels.Level full = picture.levels().get(0);
        if (fitted) {
            zoom = Math.min(width / full.width(), height / full.height());
            left = (width - zoom * full.width()) / 2;
            top = (height - zoom * full.height()) / 2;
        }
        int level = 0;
        while (level + 1 < picture.levels().size() && zoom * (1 << (level + 1)) <= 1.0) {
            level++;
        }
        WritableImage image = image(images, picture, level);
        g.save();
        g.beginPath();
        g.rect(0, 0, width, height);
        g.clip();
        g.setImageSmoothing(zoom < 3);
        g.drawImage(image, left, top, zoom * full.width(), zoom * full.height());
        if (marks) {
            ring(g, full);
        }
        int seen = level;
        before.ifPresent(b -> curtain(g, image(beforeImages, b, seen), full, width, height));
        g.beginPath();
        g.rect(left, top, zoom * full.width(), zoom * full.height());
        g.clip();
        overlay.ifPresent(o -> {
            if (drawSky) {
                sky(g, o, full);
            }
            if (drawResiduals) {
                residuals(g, o, full);
            }
        });
        lines(g, full);
        g.restore();
    }

    private void lines(GraphicsContext g, PictureLevels.Level full) {
        g.setStroke(accent());
        g.setLineWidth(1.4);
        double far = LINE_PX * zoom;
        for (double[] line : lines) {
            double c = Math.cos(Math.toRadians(line[2]));
            double s = Math.sin(Math.toRadians(line[2]));
            double x = viewX(line[0]);
            double y = viewY(line[1], full);
            g.strokeLine(x - far * c, y + far * s, x + far * c, y - far * s);
        }
    }

    private void curtain(
            GraphicsContext g, WritableImage image, PictureLevels.Level full, double width, double height) {
        double at = curtain * width;
        g.save();
        g.beginPath();
        g.rect(0, 0, at, height);
        g.clip();
        g.setFill(Color.BLACK);
        g.fillRect(0, 0, at, height);
        g.drawImage(image, left, top, zoom * full.width(), zoom * full.height());
        g.restore();
        g.setStroke(accent());
        g.setLineWidth(2);
        g.strokeLine(at, 0, at, height);
        g.setFill(accent());
        g.fillOval(at - 9, height / 2 - 9, 18, 18);
    }

    private double viewX(double x) {
        return left + zoom * (x - 0.5);
    }

    private double viewY(double y, PictureLevels.Level full) {
        return top + zoom * (full.height() - y + 0.5);
    }

    private void sky(GraphicsContext g, SkyOverlay o, PictureLevels.Level full) {
        LabelRoom room = new LabelRoom();
        for (SkyOverlay.Mark m : o.objects()) {
            object(g, m, full, room);
        }
        for (SkyOverlay.Line line : o.lines()) {
            line(g, line, full, room);
        }
    }

    /** The name stands above and to the right, or where there is room; without any, the circle says enough. */
    private void object(GraphicsContext g, SkyOverlay.Mark m, PictureLevels.Level full, LabelRoom room) {
        double r = zoom * m.radiusPx();
        double x = viewX(m.x());
        double y = viewY(m.y(), full);
        g.setStroke(faded(accent(), 0.9));
        g.setLineWidth(1.4);
        g.strokeOval(x - r, y - r, 2 * r, 2 * r);
        g.setFill(accent());
        double out = r * 0.72;
        double[][] places = {{x + out + 4, y - out - 2}, {x + out + 4, y + out + 13}, {x - r, y - r - 5}};
        for (double[] place : places) {
            if (room.take(m.name(), place[0], place[1])) {
                g.fillText(m.name(), place[0], place[1]);
                return;
            }
        }
    }

    /** A line of the grid, with its name where it first has room. */
    private void line(GraphicsContext g, SkyOverlay.Line line, PictureLevels.Level full, LabelRoom room) {
        g.setLineWidth(1);
        g.setStroke(faded(cool(), 0.55));
        g.setFill(cool());
        double[] before = null;
        boolean named = false;
        for (double[] p : line.points()) {
            double[] now = {viewX(p[0]), viewY(p[1], full)};
            if (before != null) {
                g.strokeLine(before[0], before[1], now[0], now[1]);
            }
            boolean inside = now[0] > Math.max(4, left)
                    && now[0] < getWidth() - 70
                    && now[1] > Math.max(18, top)
                    && now[1] < getHeight() - 8;
            if (!named && inside && room.take(line.name(), now[0] + 4, now[1] - 4)) {
                g.fillText(line.name(), now[0] + 4, now[1] - 4);
                named = true;
            }
            before = now;
        }
    }

    /** Each matched star with a line of where it is off to, two hundred times as long as it is. */
    private void residuals(GraphicsContext g, SkyOverlay o, PictureLevels.Level full) {
        g.setLineWidth(1.4);
        for (app.ironside.solve.StarMatch m : o.matches()) {
            double x = viewX(m.x());
            double y = viewY(m.y(), full);
            g.setStroke(faded(good(), 0.9));
            g.strokeOval(x - 3, y - 3, 6, 6);
            g.setStroke(alert());
            g.strokeLine(x, y, x + zoom * RESIDUAL_SCALE * m.residualX(), y - zoom * RESIDUAL_SCALE * m.residualY());
        }
    }

    private void ring(GraphicsContext g, PictureLevels.Level full) {
        g.setStroke(faded(accent(), 0.8));
        g.setLineWidth(1);
        for (Star star : picture.shown().stars()) {
            double radius = Math.max(4, zoom * 2.5 * star.halfFluxRadiusPx());
            double x = left + zoom * (star.x() - 0.5);
            double y = top + zoom * (full.height() - star.y() + 0.5);
            g.strokeOval(x - radius, y - radius, 2 * radius, 2 * radius);
        }
    }

    private WritableImage image(Map<Integer, WritableImage> kept, PictureLevels of, int level) {
        if (!tint().equals(imagesTint)) {
            images.clear();
            beforeImages.clear();
            imagesTint = tint();
        }
        return kept.computeIfAbsent(level, l -> {
            PictureLevels.Level from = of.levels().get(l);
            return Shades.image(from.width(), from.height(), from.grey(), imagesTint);
        });
    }

    /** The first frame that stands within a node. */
    public static Optional<FrameView> seenIn(Node node) {
        if (node instanceof FrameView view) {
            return Optional.of(view);
        }
        if (node instanceof Parent parent) {
            for (Node child : parent.getChildrenUnmodifiable()) {
                Optional<FrameView> found = seenIn(child);
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        return Optional.empty();
    }
}
