package app.ironside.desk.darkroom;

import app.ironside.Workers;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.desk.picture.Shades;
import app.ironside.image.Frame;
import app.ironside.image.Stretch;
import app.ironside.image.Thumbnail;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.WritableImage;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;

/**
 * Hundreds of lights at a glance: all stretched alike, so that the one that differs is seen. Small likenesses are made away from the
 * interface thread, those on the screen first.
 */
final class ContactSheet extends DrawnPane implements AutoCloseable {
    static final int CELL_PX = 176;
    private static final double GAP = 8;
    private static final double FOOT = 40;

    /** Made at once, so that the first of them show soon. */
    private static final int BATCH = 8;

    /** A screen shows some forty. */
    private static final int MOST_KEPT = 900;

    /** What a cell shows of its light. */
    enum Look {
        WHOLE,
        CORNERS;

        Frame of(Path file) {
            return this == WHOLE ? Thumbnail.of(file, CELL_PX) : Thumbnail.corners(file, CELL_PX, CELL_PX * 3 / 4);
        }
    }

    /** What a cell was clicked for. */
    enum Pick {
        ALONE,
        UP_TO,
        AS_WELL
    }

    /** Takes a cell that was clicked. */
    @FunctionalInterface
    interface Picked {
        void at(int place, Pick how);
    }

    /** A likeness; of no width where the file cannot be read, which its own picture explains. */
    private record Small(int width, int height, byte[] grey) {
        static final Small NONE = new Small(0, 0, new byte[0]);
    }

    private final BackgroundWork work = new BackgroundWork("contact sheet");
    private final Consumer<Integer> onOpen;
    private final Picked onPick;
    private final Map<Path, Small> smalls = new LinkedHashMap<>(64, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Path, Small> eldest) {
            return size() > MOST_KEPT;
        }
    };
    private final Map<Path, WritableImage> images = new HashMap<>();
    private Color imagesTint = Color.WHITE;
    private List<JudgedLight> lights = List.of();
    private Set<Integer> chosen = Set.of();
    private Optional<Stretch> stretch = Optional.empty();
    private Set<Path> files = Set.of();
    private int series;
    private Look look = Look.WHOLE;
    private double top;

    /**
     * @param onPick a cell was clicked
     * @param onOpen a cell was clicked twice
     */
    ContactSheet(Picked onPick, Consumer<Integer> onOpen) {
        this.onPick = onPick;
        this.onOpen = onOpen;
        setId("contact-sheet");
        setFocusTraversable(true);
        setAccessibleText("Contact sheet of the lights; arrows move, K keeps or leaves out");
        setMinSize(CELL_PX + 3 * GAP, CELL_PX);
        setOnScroll(e -> scrollBy(-e.getDeltaY()));
        setOnMouseClicked(this::clicked);
    }

    private void clicked(MouseEvent e) {
        requestFocus();
        int place = placeAt(e.getX(), e.getY());
        if (e.getButton() != MouseButton.PRIMARY || place < 0) {
            return;
        }
        if (e.getClickCount() == 2) {
            onOpen.accept(place);
        } else {
            onPick.at(place, e.isShiftDown() ? Pick.UP_TO : e.isShortcutDown() ? Pick.AS_WELL : Pick.ALONE);
        }
    }

    /** Shows lights in an order; those of another series are stretched anew. */
    void show(List<JudgedLight> next) {
        Set<Path> now = next.stream().map(JudgedLight::file).collect(Collectors.toSet());
        lights = next;
        if (!now.equals(files)) {
            files = now;
            anew();
            top = 0;
        }
        stale();
    }

    /** Shows all of each light, or its corners at full size. */
    void look(Look next) {
        look = next;
        anew();
        stale();
    }

    private void anew() {
        series++;
        stretch = Optional.empty();
        smalls.clear();
        images.clear();
    }

    /** Marks what is chosen, and brings the last of it on the screen. */
    void choose(Set<Integer> next, int last) {
        chosen = next;
        if (last >= 0) {
            double y = last / columns() * rowHeight();
            top = Math.max(Math.min(top, y), y + rowHeight() - getHeight());
            scrollBy(0);
        }
        stale();
    }

    /** How many cells stand beside each other. */
    int columns() {
        return Math.max(1, (int) ((getWidth() - GAP) / (CELL_PX + GAP)));
    }

    /** Whether all that can be seen has its likeness. */
    boolean isReady() {
        return work.isIdle() && missing().isEmpty();
    }

    private double rowHeight() {
        return CELL_PX * 3 / 4.0 + FOOT + GAP;
    }

    private void scrollBy(double pixels) {
        double all = Math.ceil(lights.size() / (double) columns()) * rowHeight() + GAP;
        top = Math.max(0, Math.min(Math.max(0, all - getHeight()), top + pixels));
        stale();
    }

    private int placeAt(double x, double y) {
        int column = (int) ((x - GAP / 2) / (CELL_PX + GAP));
        int place = (int) ((y + top) / rowHeight()) * columns() + column;
        return column >= 0 && column < columns() && place >= 0 && place < lights.size() ? place : -1;
    }

    private int first() {
        return (int) (top / rowHeight()) * columns();
    }

    private int until() {
        return Math.min(lights.size(), ((int) ((top + getHeight()) / rowHeight()) + 1) * columns());
    }

    private List<Path> missing() {
        List<Path> missing = new ArrayList<>();
        for (int i = first(); i < until(); i++) {
            Path file = lights.get(i).file();
            if (!smalls.containsKey(file)) {
                missing.add(file);
            }
        }
        return missing;
    }

    /** Has the next of what can be seen made. */
    private void want() {
        List<Path> missing = missing();
        if (missing.isEmpty() || !work.isIdle()) {
            return;
        }
        List<Path> batch = List.copyOf(missing.subList(0, Math.min(BATCH, missing.size())));
        Path yardstick = best();
        Optional<Stretch> known = stretch;
        int of = series;
        Look how = look;
        work.ask(progress -> {
                    Stretch alike = known.orElseGet(() -> Stretch.automatic(how.of(yardstick)));
                    Small[] made = new Small[batch.size()];
                    Workers.ALL_CORES.forEach(batch.size(), i -> made[i] = small(batch.get(i), how, alike));
                    return new Made(alike, List.of(made));
                })
                .failed(why -> {
                    // The yardstick itself cannot be read: each says so in its cell.
                    if (of == series) {
                        batch.forEach(f -> smalls.put(f, Small.NONE));
                    }
                    stale();
                })
                .then(made -> {
                    if (of == series) {
                        stretch = Optional.of(made.stretch());
                        for (int i = 0; i < batch.size(); i++) {
                            smalls.put(batch.get(i), made.smalls().get(i));
                        }
                    }
                    stale();
                });
    }

    private record Made(Stretch stretch, List<Small> smalls) {}

    /** By the light that adds most all are stretched. */
    private Path best() {
        return lights.stream()
                .max(Comparator.comparingDouble(l -> l.grade().weight()))
                .orElseThrow()
                .file();
    }

    private static Small small(Path file, Look how, Stretch alike) {
        try {
            Frame frame = how.of(file);
            return new Small(frame.width(), frame.height(), alike.toBytes(frame));
        } catch (RuntimeException e) {
            return Small.NONE;
        }
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        if (!tint().equals(imagesTint)) {
            images.clear();
            imagesTint = tint();
        }
        if (images.size() > MOST_KEPT) {
            images.clear();
        }
        for (int i = first(); i < until(); i++) {
            double x = GAP + i % columns() * (CELL_PX + GAP);
            double y = GAP + i / columns() * rowHeight() - top;
            cell(g, i, x, y);
        }
        bar(g, width, height);
        want();
    }

    private void cell(GraphicsContext g, int i, double x, double y) {
        JudgedLight light = lights.get(i);
        double tall = CELL_PX * 3 / 4.0;
        g.setFill(panel());
        g.fillRoundRect(x - 3, y - 3, CELL_PX + 6, tall + FOOT + 2, 8, 8);
        g.setFill(Color.BLACK);
        g.fillRect(x, y, CELL_PX, tall);
        Small small = smalls.get(light.file());
        g.setTextBaseline(VPos.TOP);
        g.setTextAlign(TextAlignment.LEFT);
        if (small != null && small.width() > 0) {
            WritableImage image = images.computeIfAbsent(
                    light.file(), f -> Shades.image(small.width(), small.height(), small.grey(), imagesTint));
            double scale = Math.min(CELL_PX / image.getWidth(), tall / image.getHeight());
            double w = image.getWidth() * scale;
            double h = image.getHeight() * scale;
            g.setGlobalAlpha(light.keep() ? 1 : 0.55);
            g.drawImage(image, x + (CELL_PX - w) / 2, y + (tall - h) / 2, w, h);
            g.setGlobalAlpha(1);
        } else {
            g.setFill(dim());
            g.fillText(small == null ? "…" : "cannot be read", x + 8, y + 8);
        }
        if (!light.keep()) {
            g.setStroke(alert());
            g.setLineWidth(3);
            g.strokeLine(x + 4, y + tall - 4, x + CELL_PX - 4, y + 4);
        }
        if (chosen.contains(i)) {
            g.setStroke(accent());
            g.setLineWidth(3);
            g.strokeRoundRect(x - 3, y - 3, CELL_PX + 6, tall + FOOT + 2, 8, 8);
        }
        g.setFill(light.keep() ? text() : alert());
        g.fillText(
                (light.keep() ? "✓ " : "✕ ")
                        + Words.format(
                                "%.0f %%   %.2f px",
                                100 * light.grade().weight(),
                                light.grade().sub().fwhmPx()),
                x + 4,
                y + tall + 3);
        g.setFill(dim());
        String what = light.byHand() ? "by hand" : light.cause();
        g.fillText(what.isEmpty() ? name(light) : what, x + 4, y + tall + 19);
    }

    /** The end of its name, where numbers stand. */
    private static String name(JudgedLight light) {
        String name = light.file().getFileName().toString();
        return name.length() <= 22 ? name : "…" + name.substring(name.length() - 21);
    }

    private void bar(GraphicsContext g, double width, double height) {
        double all = Math.ceil(lights.size() / (double) columns()) * rowHeight() + GAP;
        if (all > height) {
            g.setFill(line());
            g.fillRoundRect(width - 5, height * top / all, 4, Math.max(24, height * height / all), 4, 4);
        }
    }

    @Override
    public void close() {
        work.close();
    }
}
