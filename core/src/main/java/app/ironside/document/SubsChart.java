package app.ironside.document;

import app.ironside.journal.SubTaken;
import app.ironside.sky.Site;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.geom.Ellipse2D;
import java.awt.geom.Line2D;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;

/** What the subs of a night show, one band above the other on the night's own time: full marks are kept, open ones are not. */
final class SubsChart {
    private static final int WIDTH = PaperChart.WIDTH;
    private static final int BAND = 190;
    private static final int LEFT = 110;
    private static final int RIGHT = 12;
    private static final int BOTTOM = 44;
    private static final double DOT = 9;
    private static final Color INK = PaperChart.INK;
    private static final Color FAINT = PaperChart.FAINT;

    @FunctionalInterface
    private interface ToValue {
        OptionalDouble apply(SubTaken sub, int widestPx);
    }

    /** One measure with its name and unit. */
    private record Band(String name, ToValue value) {}

    private static final List<Band> BANDS = List.of(
            new Band("star size, px", (s, w) -> s.measures().hfrPx()),
            new Band("stars, of the whole frame", (s, w) -> OptionalDouble.of(wholeFrame(s, w))),
            new Band("sky, ADU", (s, w) -> s.measures().skyAdu()),
            new Band(
                    "guiding, arcsec RMS",
                    (s, w) -> s.guiding().about().isPresent()
                            ? OptionalDouble.of(s.guiding().about().get().rmsTotalArcsec())
                            : OptionalDouble.empty()));

    private final Site site;
    private final List<SubTaken> subs;
    private final Instant from;
    private final Instant until;
    private final int widest;

    /** @param subs at least one */
    SubsChart(Site site, List<SubTaken> subs) {
        this.site = site;
        this.subs = subs;
        this.from = subs.stream()
                .map(s -> s.exposed().from())
                .min(Instant::compareTo)
                .orElseThrow();
        this.widest = subs.stream().mapToInt(s -> s.measures().widthPx()).max().orElseThrow();
        this.until = subs.stream()
                .map(s -> s.exposed().until())
                .max(Instant::compareTo)
                .orElseThrow();
    }

    /** The chart as PNG. */
    byte[] png() {
        List<Band> told = BANDS.stream()
                .filter(b -> subs.stream().anyMatch(s -> value(b, s).isPresent()))
                .toList();
        int height = told.size() * BAND + BOTTOM;
        return PaperChart.png(height, 22, g -> {
            for (int i = 0; i < told.size(); i++) {
                band(g, told.get(i), i * BAND);
            }
            hours(g, told.size() * BAND);
        });
    }

    private double x(Instant time) {
        double whole = Math.max(1, Duration.between(from, until).toMillis());
        return LEFT + Duration.between(from, time).toMillis() / whole * (WIDTH - LEFT - RIGHT);
    }

    private void band(Graphics2D g, Band band, int top) {
        double[] values = subs.stream()
                .map(s -> value(band, s))
                .filter(OptionalDouble::isPresent)
                .mapToDouble(OptionalDouble::getAsDouble)
                .sorted()
                .toArray();
        // One cloud must not press all the others flat.
        double low = values[(int) (0.02 * (values.length - 1))];
        double high = values[(int) (0.98 * (values.length - 1))];
        double room = Math.max(1e-6, high - low);
        double bottom = low - 0.1 * room;
        double scale = (BAND - 50) / (1.2 * room);
        g.setColor(FAINT);
        g.setStroke(new BasicStroke(1));
        g.draw(new Line2D.Double(LEFT, top + BAND - 8.0, WIDTH - RIGHT, top + BAND - 8.0));
        g.setColor(INK);
        g.drawString(band.name(), LEFT, top + 24);
        g.drawString(text(high), 4, top + 50);
        g.drawString(text(low), 4, top + BAND - 14);
        g.setStroke(new BasicStroke(2));
        for (SubTaken sub : subs) {
            OptionalDouble value = value(band, sub);
            if (value.isPresent()) {
                double held = Math.max(low - 0.1 * room, Math.min(high + 0.1 * room, value.getAsDouble()));
                double y = top + BAND - 12 - (held - bottom) * scale;
                double x = x(sub.exposed()
                        .from()
                        .plus(Duration.between(
                                        sub.exposed().from(), sub.exposed().until())
                                .dividedBy(2)));
                Ellipse2D dot = new Ellipse2D.Double(x - DOT / 2, y - DOT / 2, DOT, DOT);
                if (sub.kept()) {
                    g.fill(dot);
                } else {
                    g.draw(dot);
                }
            }
        }
    }

    private OptionalDouble value(Band band, SubTaken sub) {
        return band.value().apply(sub, widest);
    }

    /** Of the middle of a sensor, as rehearsals read it, a whole frame would show as many times more as it is larger. */
    private static double wholeFrame(SubTaken sub, int widest) {
        double share = (double) sub.measures().widthPx() / widest;
        return sub.measures().stars() / (share * share);
    }

    private static String text(double value) {
        return String.format(Locale.ROOT, value >= 100 ? "%.0f" : value >= 10 ? "%.1f" : "%.2f", value);
    }

    private void hours(Graphics2D g, int top) {
        ZonedDateTime hour =
                from.atZone(site.zone()).truncatedTo(ChronoUnit.HOURS).plusHours(1);
        g.setColor(INK);
        while (hour.toInstant().isBefore(until)) {
            double at = x(hour.toInstant());
            g.draw(new Line2D.Double(at, top - 8.0, at, top));
            g.drawString(String.format(Locale.ROOT, "%02d", hour.getHour()), (float) at - 12, top + 28);
            hour = hour.plusHours(1);
        }
    }
}
