package app.ironside.desk.night;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;

/** What lies behind a night on its ribbon: darkness, the Moon, the hours. */
final class RibbonSky extends DrawnPane {
    private static final Comparator<RibbonState.Trouble> BY_TIME =
            Comparator.comparing((RibbonState.Trouble t) -> t.span().from());

    /** About as wide as a letter is. */
    private static final double LETTER = 7;

    private Optional<RibbonPlaces> shown = Optional.empty();

    /** Draws again only what has changed: neither moves with the plan nor with the night. */
    void show(RibbonPlaces next) {
        boolean same = shown.filter(s -> s.width() == next.width()
                        && s.height() == next.height()
                        && s.state().shown().equals(next.state().shown())
                        && s.state().zone().equals(next.state().zone())
                        && s.state().darkness().equals(next.state().darkness())
                        && s.state().moon().equals(next.state().moon())
                        && s.state().troubles().equals(next.state().troubles()))
                .isPresent();
        if (!same) {
            shown = Optional.of(next);
            stale();
        }
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        shown.ifPresent(places -> {
            drawSky(g, places);
            drawMoon(g, places);
            drawHours(g, places);
            drawTroubles(g, places);
        });
    }

    private void drawSky(GraphicsContext g, RibbonPlaces places) {
        int n = places.state().darkness().size();
        double step = (places.width() - 2 * Ribbon.MARGIN) / (n - 1);
        for (int i = 0; i < n - 1; i++) {
            double dark = places.state().darkness().get(i);
            g.setFill(night().interpolate(day(), Math.pow(1 - dark, 1.3)));
            g.fillRect(Ribbon.MARGIN + i * step, 2, step + 1, places.sky() - 2);
        }
    }

    private void drawMoon(GraphicsContext g, RibbonPlaces places) {
        int n = places.state().moon().size();
        double step = (places.width() - 2 * Ribbon.MARGIN) / (n - 1);
        g.setFill(faded(text(), 0.11));
        double labelX = -1;
        for (int i = 0; i < n - 1; i++) {
            double up = places.state().moon().get(i);
            boolean dark = places.state().darkness().get(i) > 0.75;
            if (up > 0) {
                double top = places.y(up);
                g.fillRect(Ribbon.MARGIN + i * step, top, step + 0.5, places.sky() - top);
                labelX = labelX < 0 && dark ? Ribbon.MARGIN + i * step : labelX;
            }
        }
        if (labelX >= 0) {
            g.setFill(dim());
            g.setTextAlign(TextAlignment.LEFT);
            g.fillText("Moon", Math.max(labelX, Ribbon.MARGIN) + 6, places.sky() - 6);
        }
    }

    /** What is set to go wrong: a veil over its time, named at its foot where there is room. */
    private void drawTroubles(GraphicsContext g, RibbonPlaces places) {
        double free = 0;
        for (RibbonState.Trouble trouble :
                places.state().troubles().stream().sorted(BY_TIME).toList()) {
            double x = places.xOf(trouble.span().from());
            double wide = Math.max(3, places.xOf(trouble.span().until()) - x);
            g.setFill(faded(alert(), 0.16));
            g.fillRect(x, 2, wide, places.sky() - 2);
            g.setFill(alert());
            g.fillRect(x, 2, 2, places.sky() - 2);
            g.setTextAlign(TextAlignment.LEFT);
            if (x > free) {
                g.fillText(trouble.words(), x + 6, 16);
                free = x + 8 + LETTER * trouble.words().length();
            }
        }
    }

    private void drawHours(GraphicsContext g, RibbonPlaces places) {
        ZonedDateTime hour = places.state()
                .shown()
                .from()
                .atZone(places.state().zone())
                .truncatedTo(ChronoUnit.HOURS)
                .plusHours(1);
        g.setTextAlign(TextAlignment.CENTER);
        while (hour.toInstant().isBefore(places.state().shown().until())) {
            double x = places.xOf(hour.toInstant());
            g.setStroke(line());
            g.setLineWidth(1);
            g.strokeLine(x, places.height() - RibbonPlaces.AXIS, x, places.height() - RibbonPlaces.AXIS + 4);
            g.setFill(dim());
            g.fillText(Words.format("%02d", hour.getHour()), x, places.height() - 4);
            hour = hour.plusHours(1);
        }
    }
}
