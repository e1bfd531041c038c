package app.ironside.document;

import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetWindow;
import app.ironside.sky.Interval;
import app.ironside.sky.Site;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.geom.Line2D;
import java.awt.geom.Rectangle2D;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;

/** The night's altitudes on paper: each target's curve, thick while it is taken, with its skyline under it, the dark, the flips. */
final class NightChart {
    private static final int WIDTH = PaperChart.WIDTH;
    private static final int HEIGHT = 480;
    private static final int LEFT = 64;
    private static final int BOTTOM = 48;
    private static final int TOP = 36;
    private static final double TOP_DEG = 90;

    /** So much of the day is shown before sunset and after sunrise. */
    private static final Duration BESIDE = Duration.ofMinutes(30);

    private static final Color INK = PaperChart.INK;
    private static final Color FAINT = PaperChart.FAINT;
    private static final Color DARK = new Color(0xE4, 0xE4, 0xE4);

    /** Told apart in print by their shade, not by colour alone: the name stands at each. */
    private static final List<Color> CURVES =
            List.of(new Color(0x11, 0x11, 0x11), new Color(0x66, 0x44, 0x00), new Color(0x22, 0x44, 0x88));

    private final Site site;
    private final NightPlan plan;
    private final Interval shown;

    NightChart(Site site, NightPlan plan) {
        this.site = site;
        this.plan = plan;
        Interval noonToNoon = plan.times().night();
        this.shown = new Interval(
                plan.times().sunset().map(t -> t.minus(BESIDE)).orElse(noonToNoon.from()),
                plan.times().sunrise().map(t -> t.plus(BESIDE)).orElse(noonToNoon.until()));
    }

    /** The chart as PNG. */
    byte[] png() {
        return PaperChart.png(HEIGHT, 24, g -> {
            dark(g);
            axes(g);
            int number = 0;
            for (PlannedBlock block : plan.blocks()) {
                curve(g, block, CURVES.get(number++ % CURVES.size()));
            }
        });
    }

    private double x(Instant time) {
        double along = (double) Duration.between(shown.from(), time).toMillis()
                / shown.duration().toMillis();
        return LEFT + along * (WIDTH - LEFT - 8);
    }

    private static double y(double altitudeDeg) {
        return HEIGHT - BOTTOM - Math.max(0, altitudeDeg) / TOP_DEG * (HEIGHT - BOTTOM - TOP);
    }

    private void dark(Graphics2D g) {
        g.setColor(DARK);
        for (Interval dark : plan.times().dark()) {
            double from = x(dark.from());
            g.fill(new Rectangle2D.Double(from, TOP, x(dark.until()) - from, y(0) - TOP));
        }
    }

    private void axes(Graphics2D g) {
        for (int deg = 0; deg <= TOP_DEG; deg += 30) {
            line(g, FAINT, 1, LEFT, y(deg), WIDTH - 8, y(deg));
            g.setColor(INK);
            g.drawString(deg + "°", 8, (int) y(deg) + 8);
        }
        ZonedDateTime hour =
                shown.from().atZone(site.zone()).truncatedTo(ChronoUnit.HOURS).plusHours(1);
        while (hour.toInstant().isBefore(shown.until())) {
            double at = x(hour.toInstant());
            line(g, FAINT, 1, at, y(0), at, y(0) + 8);
            g.setColor(INK);
            centred(g, String.format(Locale.ROOT, "%02d", hour.getHour()), at, HEIGHT - 12);
            hour = hour.plusHours(1);
        }
    }

    private void curve(Graphics2D g, PlannedBlock block, Color color) {
        TargetWindow.Sample before = null;
        for (TargetWindow.Sample s : block.window().samples()) {
            if (before != null && shown.contains(s.time()) && s.altitudeDeg() > 0 && before.altitudeDeg() > 0) {
                boolean taken = block.span().contains(s.time());
                line(
                        g,
                        color,
                        taken ? 6 : 2,
                        x(before.time()),
                        y(before.altitudeDeg()),
                        x(s.time()),
                        y(s.altitudeDeg()));
                if (taken) {
                    line(g, INK, 2, x(before.time()), y(skyline(before)), x(s.time()), y(skyline(s)));
                }
            }
            before = s;
        }
        block.flip().ifPresent(flip -> {
            line(g, color, 2, x(flip), TOP, x(flip), y(0));
            g.setColor(color);
            centred(g, "flip " + site.clock(flip), x(flip), TOP - 10);
        });
        Instant quarter = block.span().from().plus(block.span().duration().dividedBy(4));
        block.window().samples().stream()
                .filter(s -> !s.time().isBefore(quarter))
                .findFirst()
                .ifPresent(s -> {
                    g.setColor(color);
                    centred(g, block.target().name(), x(s.time()), (int) y(s.altitudeDeg()) + 34);
                });
    }

    private double skyline(TargetWindow.Sample s) {
        return site.horizon().altitudeDeg(s.azimuthDeg());
    }

    private static void line(Graphics2D g, Color color, float width, double x1, double y1, double x2, double y2) {
        g.setColor(color);
        g.setStroke(new BasicStroke(width, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND));
        g.draw(new Line2D.Double(x1, y1, x2, y2));
    }

    private static void centred(Graphics2D g, String text, double x, int y) {
        double width = g.getFontMetrics().stringWidth(text);
        g.drawString(text, (float) Math.min(WIDTH - width, Math.max(0, x - width / 2)), y);
    }
}
