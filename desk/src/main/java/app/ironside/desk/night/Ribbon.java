package app.ironside.desk.night;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.NightEvent;
import app.ironside.journal.SubTaken;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;

/** The night from before sunset to after sunrise: what is planned, what happened, where we are. Click an event, drag through time. */
public final class Ribbon extends DrawnPane {
    static final double MARGIN = 16;

    private static final double AXIS = 20;
    private static final double TICKS = 16;
    private static final double PLANNED = 36;
    private static final double HANDLE = 14;
    private static final double SIGNS = 18;
    private static final double NEAR_PX = 9;

    private RibbonState state;
    private Moment moment;
    private List<NightEvent> all = List.of();
    private Optional<NightEvent> chosen = Optional.empty();
    private double pressedX;
    private boolean dragging;
    private Consumer<NightEvent> onEvent = e -> {};
    private Consumer<Instant> onTime = t -> {};
    private Optional<RibbonPlanner> planner = Optional.empty();
    private Grip grip;

    /**
     * What is being dragged in a plan.
     *
     * @param edge −1 the start, 1 the end, 0 the whole block
     */
    private record Grip(int block, int edge, double fromX, Interval span) {}

    public Ribbon() {
        getStyleClass().add("ribbon");
        setPrefHeight(168);
        setMinHeight(136);
        setOnMousePressed(this::pressed);
        setOnMouseDragged(this::dragged);
        setOnMouseReleased(this::released);
    }

    public void setOnEvent(Consumer<NightEvent> handler) {
        onEvent = handler;
    }

    public void setOnTime(Consumer<Instant> handler) {
        onTime = handler;
    }

    /** While a night is planned the blocks can be moved; otherwise a drag goes through time. */
    public void setPlanner(Optional<RibbonPlanner> next) {
        planner = next;
        grip = null;
        stale();
    }

    public void show(RibbonState ribbon, Moment now, List<NightEvent> everything, Optional<NightEvent> picked) {
        state = ribbon;
        moment = now;
        all = everything;
        chosen = picked;
        stale();
    }

    private void pressed(MouseEvent e) {
        pressedX = e.getX();
        dragging = false;
        grip = null;
        if (planner.isEmpty() || state == null) {
            return;
        }
        int block = blockAt(e.getX(), e.getY());
        planner.get().choose(block);
        if (block >= 0) {
            Interval span = state.curves().get(block).block();
            int edge = e.getX() - xOf(span.from()) < HANDLE ? -1 : xOf(span.until()) - e.getX() < HANDLE ? 1 : 0;
            grip = new Grip(block, edge, e.getX(), span);
            if (e.getClickCount() == 2) {
                grip = null;
                planner.get().split(block, timeAt(e.getX()));
            } else if (e.getButton() == MouseButton.SECONDARY) {
                grip = null;
                planner.get().remove(block);
            }
        }
    }

    /** The block of the plan under a point; −1 for none. */
    int blockAt(double x, double y) {
        if (y < ticksTop() - 2 || y > ticksTop() + ticks() + 4) {
            return -1;
        }
        for (int i = 0; i < state.curves().size(); i++) {
            Interval span = state.curves().get(i).block();
            if (x >= xOf(span.from()) - 3 && x <= xOf(span.until()) + 3) {
                return i;
            }
        }
        return -1;
    }

    /** Where the grip would put its block, in whole minutes. */
    private Interval gripped(double x) {
        Duration by = Duration.between(timeAt(grip.fromX()), timeAt(x));
        Duration shift = Duration.ofMinutes(Math.round(by.toSeconds() / 60.0));
        Instant from =
                grip.edge() <= 0 ? grip.span().from().plus(shift) : grip.span().from();
        Instant until =
                grip.edge() >= 0 ? grip.span().until().plus(shift) : grip.span().until();
        return from.isBefore(until) ? new Interval(from, until) : grip.span();
    }

    private void dragged(MouseEvent e) {
        if (grip != null) {
            dragging = true;
            planner.orElseThrow().preview(grip.block(), gripped(e.getX()));
            return;
        }
        if (state != null && (dragging || Math.abs(e.getX() - pressedX) > 5)) {
            dragging = true;
            onTime.accept(timeAt(e.getX()));
        }
    }

    private void released(MouseEvent e) {
        if (grip != null) {
            Grip held = grip;
            Interval span = gripped(e.getX());
            grip = null;
            if (dragging) {
                planner.orElseThrow().settle(held.block(), span);
            }
            return;
        }
        if (planner.isPresent() && blockAt(e.getX(), e.getY()) >= 0) {
            return;
        }
        if (state == null || dragging) {
            return;
        }
        Optional<NightEvent> hit = eventNear(e.getX(), e.getY());
        if (hit.isPresent()) {
            onEvent.accept(hit.get());
        } else {
            onTime.accept(timeAt(e.getX()));
        }
    }

    /** The event whose sign or tick is under a point. */
    Optional<NightEvent> eventNear(double x, double y) {
        boolean onTicks = y > ticksTop() && y < ticksTop() + TICKS + 2;
        boolean onSigns = y >= ticksTop() + TICKS + 2 && y < ticksTop() + TICKS + SIGNS + 6;
        if (!onTicks && !onSigns) {
            return Optional.empty();
        }
        return all.stream()
                .filter(e -> onTicks ? e instanceof SubTaken : e.marked())
                .filter(e -> Math.abs(xOf(e.time()) - x) < NEAR_PX)
                .min(Comparator.comparingDouble(e -> Math.abs(xOf(e.time()) - x)));
    }

    private double ticks() {
        return planner.isPresent() ? PLANNED : TICKS;
    }

    public double ticksTop() {
        return getHeight() - AXIS - SIGNS - TICKS - 4;
    }

    public double xOf(Instant time) {
        return MARGIN + state.along(time) * (getWidth() - 2 * MARGIN);
    }

    private Instant timeAt(double x) {
        return state.at((x - MARGIN) / (getWidth() - 2 * MARGIN));
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        if (state == null) {
            return;
        }
        double sky = ticksTop() - 4;
        drawSky(g, width, sky);
        drawMoon(g, width, sky);
        for (int i = 0; i < state.curves().size(); i++) {
            drawCurve(g, state.curves().get(i), colourOf(i), sky);
        }
        state.ghost().ifPresent(ghost -> drawGhost(g, ghost, sky));
        if (planner.isPresent()) {
            drawPlan(g, height);
        } else {
            drawProgram(g, height);
        }
        drawHours(g, height);
        if (planner.isEmpty()) {
            drawNow(g, height);
        }
    }

    /** A target has one colour, however often it comes. */
    private Color colourOf(int curve) {
        List<String> names =
                state.curves().stream().map(RibbonState.Curve::name).distinct().toList();
        List<Color> colours = List.of(accent(), cool(), second(), good(), third());
        return colours.get(names.indexOf(state.curves().get(curve).name()) % colours.size());
    }

    private void drawGhost(GraphicsContext g, RibbonState.Curve ghost, double sky) {
        RibbonState.Point before = null;
        g.setLineDashes(6, 4);
        for (RibbonState.Point p : ghost.points()) {
            if (before != null && p.altitudeDeg() > 0 && before.altitudeDeg() > 0) {
                g.setStroke(faded(text(), p.altitudeDeg() > p.skylineDeg() ? 0.9 : 0.25));
                g.setLineWidth(1.8);
                g.strokeLine(xOf(before.time()), y(before.altitudeDeg(), sky), xOf(p.time()), y(p.altitudeDeg(), sky));
            }
            before = p;
        }
        g.setLineDashes();
        ghost.points().stream()
                .filter(p -> p.altitudeDeg() > p.skylineDeg())
                .max(Comparator.comparingDouble(RibbonState.Point::altitudeDeg))
                .ifPresent(p -> {
                    g.setFill(text());
                    g.setTextAlign(TextAlignment.CENTER);
                    double x = Math.max(90, Math.min(getWidth() - 90, xOf(p.time())));
                    g.fillText(ghost.name(), x, Math.max(14, y(p.altitudeDeg(), sky) - 6));
                });
    }

    /** The blocks as they can be taken hold of. */
    private void drawPlan(GraphicsContext g, double height) {
        double top = ticksTop();
        for (int i = 0; i < state.curves().size(); i++) {
            RibbonState.Curve curve = state.curves().get(i);
            double x = xOf(curve.block().from());
            double width = Math.max(4, xOf(curve.block().until()) - x);
            boolean picked = planner.orElseThrow().chosen() == i;
            g.setFill(faded(colourOf(i), picked ? 0.45 : 0.22));
            g.fillRoundRect(x, top, width, PLANNED, 6, 6);
            g.setStroke(picked ? text() : colourOf(i));
            g.setLineWidth(picked ? 2 : 1.2);
            g.strokeRoundRect(x, top, width, PLANNED, 6, 6);
            g.setLineWidth(1.5);
            for (double grip : new double[] {x + 5, x + 9, x + width - 9, x + width - 5}) {
                if (width > 60) {
                    g.strokeLine(grip, top + 11, grip, top + PLANNED - 11);
                }
            }
            drawBlockName(g, curve, x, width, top);
            curve.flip().ifPresent(f -> flipMark(g, f, top - 2));
        }
        g.setStroke(line());
        g.strokeLine(MARGIN, height - AXIS, getWidth() - MARGIN, height - AXIS);
    }

    private void drawBlockName(GraphicsContext g, RibbonState.Curve curve, double x, double width, double top) {
        String times = Words.clock(curve.block().from(), state.zone()) + " to "
                + Words.clock(curve.block().until(), state.zone());
        String full = curve.name() + "   " + curve.subs() + " subs   " + times;
        String some = curve.name() + "  " + curve.subs();
        g.setFill(text());
        g.setTextAlign(TextAlignment.CENTER);
        double room = width - 28;
        String fits = widthOf(full) < room
                ? full
                : widthOf(some) < room ? some : widthOf(curve.name()) < room ? curve.name() : "";
        g.fillText(fits, x + width / 2, top + PLANNED / 2 + 5);
    }

    private static double widthOf(String words) {
        Text measure = new Text(words);
        measure.setFont(Font.font("IBM Plex Sans", 13));
        return measure.getLayoutBounds().getWidth();
    }

    private void flipMark(GraphicsContext g, Instant flip, double bottom) {
        g.setStroke(dim());
        g.setLineDashes(3, 3);
        g.setLineWidth(1);
        g.strokeLine(xOf(flip), 8, xOf(flip), bottom);
        g.setLineDashes();
        g.setFill(dim());
        boolean nowIsNear = moment != null && Math.abs(xOf(moment.time()) - xOf(flip) - 30) < 40;
        g.setTextAlign(nowIsNear ? TextAlignment.RIGHT : TextAlignment.LEFT);
        g.fillText("flip " + Words.clock(flip, state.zone()), xOf(flip) + (nowIsNear ? -4 : 4), 15);
    }

    private void drawSky(GraphicsContext g, double width, double sky) {
        int n = state.darkness().size();
        double step = (width - 2 * MARGIN) / (n - 1);
        for (int i = 0; i < n - 1; i++) {
            double dark = state.darkness().get(i);
            g.setFill(night().interpolate(day(), Math.pow(1 - dark, 1.3)));
            g.fillRect(MARGIN + i * step, 2, step + 1, sky - 2);
        }
    }

    private void drawMoon(GraphicsContext g, double width, double sky) {
        int n = state.moon().size();
        double step = (width - 2 * MARGIN) / (n - 1);
        g.setFill(faded(text(), 0.11));
        double labelX = -1;
        for (int i = 0; i < n - 1; i++) {
            double up = state.moon().get(i);
            boolean dark = state.darkness().get(i) > 0.75;
            if (up > 0) {
                double top = y(up, sky);
                g.fillRect(MARGIN + i * step, top, step + 0.5, sky - top);
                labelX = labelX < 0 && dark ? MARGIN + i * step : labelX;
            }
        }
        if (labelX >= 0) {
            g.setFill(dim());
            g.setTextAlign(TextAlignment.LEFT);
            g.fillText("Moon", Math.max(labelX, MARGIN) + 6, sky - 6);
        }
    }

    private static double y(double altitudeDeg, double sky) {
        return sky - Math.max(0, altitudeDeg) / 90 * (sky - 6);
    }

    private void drawCurve(GraphicsContext g, RibbonState.Curve curve, Color color, double sky) {
        RibbonState.Point before = null;
        for (RibbonState.Point p : curve.points()) {
            if (before != null && p.altitudeDeg() > 0 && before.altitudeDeg() > 0) {
                boolean ours = curve.block().contains(p.time());
                boolean clear = p.altitudeDeg() > p.skylineDeg();
                g.setStroke(ours && clear ? color : faded(color, clear ? 0.38 : 0.16));
                g.setLineWidth(ours && clear ? 2.6 : 1.2);
                g.strokeLine(xOf(before.time()), y(before.altitudeDeg(), sky), xOf(p.time()), y(p.altitudeDeg(), sky));
                if (ours) {
                    g.setStroke(faded(dim(), 0.8));
                    g.setLineWidth(1);
                    g.strokeLine(
                            xOf(before.time()), y(before.skylineDeg(), sky), xOf(p.time()), y(p.skylineDeg(), sky));
                }
            }
            before = p;
        }
        Instant middle = curve.block().from().plus(curve.block().duration().dividedBy(4));
        curve.points().stream()
                .filter(p -> !p.time().isBefore(middle))
                .findFirst()
                .ifPresent(p -> {
                    g.setFill(color);
                    g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
                    g.setTextAlign(TextAlignment.CENTER);
                    double labelY = y(p.altitudeDeg(), sky) + 24;
                    g.fillText(
                            Words.format("%s  %.0f°", curve.name(), curve.transitAltitudeDeg()),
                            xOf(p.time()),
                            Math.min(sky - 4, labelY));
                    g.setFont(Font.font("IBM Plex Sans", 13));
                });
    }

    private void drawProgram(GraphicsContext g, double height) {
        double top = ticksTop();
        for (RibbonState.Curve curve : state.curves()) {
            g.setFill(faded(line(), 0.9));
            double x = xOf(curve.block().from());
            g.fillRoundRect(x, top, xOf(curve.block().until()) - x, TICKS, 3, 3);
            curve.flip().ifPresent(f -> flipMark(g, f, top + TICKS));
        }
        Instant now = moment.time();
        for (NightEvent e : all) {
            if (e instanceof SubTaken sub) {
                drawSub(g, sub, top, e.time().isAfter(now));
            }
        }
        for (NightEvent e : all) {
            if (e.marked()) {
                drawSign(g, e, top + TICKS + 4 + SIGNS / 2, e.time().isAfter(now));
            }
        }
        g.setStroke(line());
        g.strokeLine(MARGIN, height - AXIS, getWidth() - MARGIN, height - AXIS);
    }

    private void drawSub(GraphicsContext g, SubTaken e, double top, boolean later) {
        double right = xOf(e.time());
        double left = xOf(e.time().minus(Duration.ofMillis(Math.round(e.seconds() * 1000))));
        Color color = filterColour(e.filter());
        boolean keep = e.kept();
        g.setFill(faded(color, later ? 0.25 : keep ? 0.95 : 0.35));
        g.fillRect(
                left,
                keep ? top + 1 : top + TICKS / 2,
                Math.max(1, right - left - 0.6),
                keep ? TICKS - 2 : TICKS / 2 - 1);
        if (chosen.isPresent() && chosen.get() == e) {
            g.setStroke(text());
            g.setLineWidth(2);
            g.strokeRect(left - 1, top - 1, Math.max(3, right - left + 1), TICKS + 2);
        }
    }

    private Color filterColour(String filter) {
        return switch (filter) {
            case "R", "Ha", "S" -> alert();
            case "G", "O" -> good();
            case "B" -> cool();
            default -> text();
        };
    }

    /** Signs differ by shape, so that they can be told apart without colour. */
    private void drawSign(GraphicsContext g, NightEvent e, double y, boolean later) {
        double x = xOf(e.time());
        double size = chosen.isPresent() && chosen.get() == e ? 7 : 4.5;
        double opacity = later ? 0.3 : 1;
        if (e instanceof FaultTold) {
            g.setFill(faded(alert(), opacity));
            g.fillPolygon(new double[] {x - size, x + size, x}, new double[] {y + size, y + size, y - size}, 3);
        } else if (e instanceof SubTaken) {
            g.setStroke(faded(alert(), opacity));
            g.setLineWidth(2);
            g.strokeLine(x - size, y - size, x + size, y + size);
            g.strokeLine(x - size, y + size, x + size, y - size);
        } else if (e instanceof FocusSwept) {
            g.setStroke(faded(good(), opacity));
            g.setLineWidth(2);
            g.strokeOval(x - size, y - size, 2 * size, 2 * size);
        } else if (e instanceof AxisMeasured) {
            g.setStroke(faded(second(), opacity));
            g.setLineWidth(2);
            g.strokeLine(x - size, y, x + size, y);
            g.strokeLine(x, y - size, x, y + size);
        } else if (e instanceof Flipped) {
            g.setFill(faded(accent(), opacity));
            g.fillPolygon(new double[] {x - size, x, x, x - size}, new double[] {y - size, y, y, y + size}, 4);
            g.fillPolygon(new double[] {x + size, x, x, x + size}, new double[] {y - size, y, y, y + size}, 4);
        } else {
            g.setFill(faded(third(), opacity));
            g.fillRect(x - size * 0.7, y - size * 0.7, 1.4 * size, 1.4 * size);
        }
    }

    private void drawHours(GraphicsContext g, double height) {
        ZonedDateTime hour = state.shown()
                .from()
                .atZone(state.zone())
                .truncatedTo(ChronoUnit.HOURS)
                .plusHours(1);
        g.setTextAlign(TextAlignment.CENTER);
        while (hour.toInstant().isBefore(state.shown().until())) {
            double x = xOf(hour.toInstant());
            g.setStroke(line());
            g.setLineWidth(1);
            g.strokeLine(x, height - AXIS, x, height - AXIS + 4);
            g.setFill(dim());
            g.fillText(Words.format("%02d", hour.getHour()), x, height - 4);
            hour = hour.plusHours(1);
        }
    }

    private void drawNow(GraphicsContext g, double height) {
        double x = Math.max(MARGIN, Math.min(getWidth() - MARGIN, xOf(moment.time())));
        g.setStroke(accent());
        g.setLineWidth(2);
        g.strokeLine(x, 6, x, height - AXIS);
        g.setFill(accent());
        if (moment.live()) {
            g.fillOval(x - 5, 1, 10, 10);
        } else {
            g.fillPolygon(new double[] {x - 6, x + 6, x}, new double[] {1, 1, 11}, 3);
        }
    }
}
