package app.ironside.desk.night;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Reacted;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TroubleSeen;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;

/** A night on its ribbon: the ways of its targets, what is planned or was taken, and where we are. */
final class RibbonNight extends DrawnPane {
    /** Narrower blocks have no room for the skyline's name. */
    private static final double SKYLINE_NAMED_PX = 160;

    /** So much must lie between a curve and the skyline for its name. */
    private static final double SKYLINE_ROOM_PX = 34;

    private final Text measure = new Text();
    private RibbonPlaces places;
    private RibbonState state;
    private Optional<Moment> moment = Optional.empty();
    private List<NightEvent> all = List.of();
    private Optional<NightEvent> chosen = Optional.empty();
    private Optional<RibbonPlanner> planner = Optional.empty();

    RibbonNight() {
        measure.setFont(Font.font("IBM Plex Sans", 13));
    }

    void show(RibbonPlaces where, Ribbon.Look look) {
        places = where;
        state = where.state();
        moment = look.moment();
        all = look.events();
        chosen = look.chosen();
        planner = look.planner();
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        if (places == null) {
            return;
        }
        for (int i = 0; i < state.curves().size(); i++) {
            drawCurve(g, state.curves().get(i), colourOf(i));
        }
        state.ghost().ifPresent(ghost -> drawGhost(g, ghost));
        if (planner.isPresent()) {
            drawPlan(g, height);
        } else {
            drawProgram(g, height);
            moment.ifPresent(now -> drawNow(g, height, now));
        }
    }

    /** A target has one colour, however often it comes. */
    private Color colourOf(int curve) {
        List<String> names =
                state.curves().stream().map(RibbonState.Curve::name).distinct().toList();
        List<Color> colours = List.of(accent(), cool(), second(), good(), third());
        return colours.get(names.indexOf(state.curves().get(curve).name()) % colours.size());
    }

    private void drawGhost(GraphicsContext g, RibbonState.Curve ghost) {
        RibbonState.Point before = null;
        g.setLineDashes(6, 4);
        for (RibbonState.Point p : ghost.points()) {
            if (before != null && p.altitudeDeg() > 0 && before.altitudeDeg() > 0) {
                g.setStroke(faded(text(), p.altitudeDeg() > p.skylineDeg() ? 0.9 : 0.25));
                g.setLineWidth(1.8);
                g.strokeLine(
                        places.xOf(before.time()),
                        places.y(before.altitudeDeg()),
                        places.xOf(p.time()),
                        places.y(p.altitudeDeg()));
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
                    double x = Math.max(90, Math.min(places.width() - 90, places.xOf(p.time())));
                    g.fillText(ghost.name(), x, Math.max(14, places.y(p.altitudeDeg()) - 6));
                });
    }

    /** The blocks as they can be taken hold of. */
    private void drawPlan(GraphicsContext g, double height) {
        double top = places.ticksTop();
        for (int i = 0; i < state.curves().size(); i++) {
            RibbonState.Curve curve = state.curves().get(i);
            double x = places.xOf(curve.block().from());
            double width = Math.max(4, places.xOf(curve.block().until()) - x);
            boolean picked = planner.orElseThrow().chosen() == i;
            g.setFill(faded(colourOf(i), picked ? 0.45 : 0.22));
            g.fillRoundRect(x, top, width, RibbonPlaces.PLANNED, 6, 6);
            g.setStroke(picked ? text() : colourOf(i));
            g.setLineWidth(picked ? 2 : 1.2);
            g.strokeRoundRect(x, top, width, RibbonPlaces.PLANNED, 6, 6);
            g.setLineWidth(1.5);
            for (double grip : new double[] {x + 5, x + 9, x + width - 9, x + width - 5}) {
                if (width > 60) {
                    g.strokeLine(grip, top + 11, grip, top + RibbonPlaces.PLANNED - 11);
                }
            }
            drawBlockName(g, curve, x, width, top);
            curve.flip().ifPresent(f -> flipMark(g, f, top - 2));
        }
        g.setStroke(line());
        g.strokeLine(
                Ribbon.MARGIN, height - RibbonPlaces.AXIS, places.width() - Ribbon.MARGIN, height - RibbonPlaces.AXIS);
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
        g.fillText(fits, x + width / 2, top + RibbonPlaces.PLANNED / 2 + 5);
    }

    private void flipMark(GraphicsContext g, Instant flip, double bottom) {
        g.setStroke(dim());
        g.setLineDashes(3, 3);
        g.setLineWidth(1);
        g.strokeLine(places.xOf(flip), 8, places.xOf(flip), bottom);
        g.setLineDashes();
        g.setFill(dim());
        boolean nowIsNear = moment.filter(m -> Math.abs(places.xOf(m.time()) - places.xOf(flip) - 30) < 40)
                .isPresent();
        g.setTextAlign(nowIsNear ? TextAlignment.RIGHT : TextAlignment.LEFT);
        g.fillText("flip " + Words.clock(flip, state.zone()), places.xOf(flip) + (nowIsNear ? -4 : 4), 15);
    }

    private void drawCurve(GraphicsContext g, RibbonState.Curve curve, Color color) {
        RibbonState.Point before = null;
        // Pieces of a line, not one long line: a software renderer fills the box about each, and these boxes are small.
        for (RibbonState.Point p : curve.points()) {
            if (before != null && p.altitudeDeg() > 0 && before.altitudeDeg() > 0) {
                boolean ours = curve.block().contains(p.time());
                boolean clear = p.altitudeDeg() > p.skylineDeg();
                double from = places.xOf(before.time());
                double to = places.xOf(p.time());
                g.setStroke(ours && clear ? color : faded(color, clear ? 0.38 : 0.16));
                g.setLineWidth(ours && clear ? 2.6 : 1.2);
                g.strokeLine(from, places.y(before.altitudeDeg()), to, places.y(p.altitudeDeg()));
                if (ours) {
                    g.setStroke(faded(dim(), 0.8));
                    g.setLineWidth(1);
                    g.strokeLine(from, places.y(before.skylineDeg()), to, places.y(p.skylineDeg()));
                }
            }
            before = p;
        }
        nameSkyline(g, curve);
        Instant middle = curve.block().from().plus(curve.block().duration().dividedBy(4));
        curve.points().stream()
                .filter(p -> !p.time().isBefore(middle))
                .findFirst()
                .ifPresent(p -> {
                    g.setFill(color);
                    g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
                    g.setTextAlign(TextAlignment.CENTER);
                    double labelY = places.y(p.altitudeDeg()) + 24;
                    g.fillText(
                            Words.format("%s  %.0f°", curve.name(), curve.transitAltitudeDeg()),
                            places.xOf(p.time()),
                            Math.min(places.sky() - 4, labelY));
                    g.setFont(Font.font("IBM Plex Sans", 13));
                });
    }

    /** The thin line under a target's curve says what it is, where there is room for the word between the two. */
    private void nameSkyline(GraphicsContext g, RibbonState.Curve curve) {
        if (places.xOf(curve.block().until()) - places.xOf(curve.block().from()) < SKYLINE_NAMED_PX) {
            return;
        }
        Instant at = curve.block()
                .from()
                .plus(curve.block().duration().multipliedBy(3).dividedBy(5));
        curve.points().stream()
                .filter(p -> !p.time().isBefore(at))
                .findFirst()
                .filter(p -> places.y(p.skylineDeg()) - places.y(p.altitudeDeg()) > SKYLINE_ROOM_PX)
                .ifPresent(p -> {
                    g.setFill(dim());
                    g.setTextAlign(TextAlignment.CENTER);
                    g.fillText("skyline", places.xOf(p.time()), places.y(p.skylineDeg()) - 4);
                });
    }

    private void drawProgram(GraphicsContext g, double height) {
        double top = places.ticksTop();
        for (RibbonState.Curve curve : state.curves()) {
            g.setFill(faded(line(), 0.9));
            double x = places.xOf(curve.block().from());
            g.fillRoundRect(x, top, places.xOf(curve.block().until()) - x, RibbonPlaces.TICKS, 3, 3);
            curve.flip().ifPresent(f -> flipMark(g, f, top + RibbonPlaces.TICKS));
        }
        Instant now = moment.map(Moment::time).orElse(Instant.MAX);
        for (NightEvent e : all) {
            if (e instanceof SubTaken sub) {
                drawSub(g, sub, top, e.time().isAfter(now));
            }
        }
        for (NightEvent e : all) {
            if (e.marked()) {
                drawSign(
                        g,
                        e,
                        top + RibbonPlaces.TICKS + 4 + RibbonPlaces.SIGNS / 2,
                        e.time().isAfter(now));
            }
        }
        g.setStroke(line());
        g.strokeLine(
                Ribbon.MARGIN, height - RibbonPlaces.AXIS, places.width() - Ribbon.MARGIN, height - RibbonPlaces.AXIS);
    }

    private void drawSub(GraphicsContext g, SubTaken e, double top, boolean later) {
        double right = places.xOf(e.time());
        double left = places.xOf(e.time().minus(Duration.ofMillis(Math.round(e.seconds() * 1000))));
        Color color = filterColour(e.filter());
        boolean keep = e.kept();
        g.setFill(faded(color, later ? 0.25 : keep ? 0.95 : 0.35));
        g.fillRect(
                left,
                keep ? top + 1 : top + RibbonPlaces.TICKS / 2,
                Math.max(1, right - left - 0.6),
                keep ? RibbonPlaces.TICKS - 2 : RibbonPlaces.TICKS / 2 - 1);
        if (chosen.isPresent() && chosen.get() == e) {
            g.setStroke(text());
            g.setLineWidth(2);
            g.strokeRect(left - 1, top - 1, Math.max(3, right - left + 1), RibbonPlaces.TICKS + 2);
        }
    }

    private void drawNow(GraphicsContext g, double height, Moment now) {
        double x = Math.max(Ribbon.MARGIN, Math.min(places.width() - Ribbon.MARGIN, places.xOf(now.time())));
        g.setStroke(accent());
        g.setLineWidth(2);
        g.strokeLine(x, 6, x, height - RibbonPlaces.AXIS);
        g.setFill(accent());
        if (now.live()) {
            g.fillOval(x - 5, 1, 10, 10);
        } else {
            g.fillPolygon(new double[] {x - 6, x + 6, x}, new double[] {1, 1, 11}, 3);
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
        double x = places.xOf(e.time());
        double size = chosen.isPresent() && chosen.get() == e ? 7 : 4.5;
        double opacity = later ? 0.3 : 1;
        if (e instanceof FaultTold) {
            g.setFill(faded(alert(), opacity));
            g.fillPolygon(new double[] {x - size, x + size, x}, new double[] {y + size, y + size, y - size}, 3);
        } else if (e instanceof TroubleSeen) {
            g.setStroke(faded(alert(), opacity));
            g.setLineWidth(2);
            g.strokePolygon(new double[] {x - size, x + size, x}, new double[] {y + size, y + size, y - size}, 3);
        } else if (e instanceof Reacted) {
            g.setFill(faded(good(), opacity));
            g.fillRoundRect(x - size, y - size, 2 * size, 2 * size, 3, 3);
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

    private double widthOf(String words) {
        measure.setText(words);
        return measure.getLayoutBounds().getWidth();
    }
}
