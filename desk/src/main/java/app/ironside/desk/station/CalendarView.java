package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.logbook.SubSearch;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.format.TextStyle;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongConsumer;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Tooltip;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/** A year of nights, a row for each month: each night with the hours of light that were kept in it. */
final class CalendarView extends DrawnPane {
    private static final int MONTHS = 12;
    private static final int DAYS = 31;
    private static final double LEFT = 76;
    private static final double TOP = 22;
    private static final double ROOM_FOR_HOURS = 17;

    private final Tooltip tip = new Tooltip();
    private Map<LocalDate, List<SubSearch.OfNight>> nights = new HashMap<>();
    private YearMonth last = YearMonth.of(2000, 1);

    /** @param onNight shows a night, by its number in the logbook */
    CalendarView(LongConsumer onNight) {
        setId("calendar");
        setAccessibleText("Nights by the hours of light kept, a row for each month");
        setOnMouseMoved(e -> at(e.getX(), e.getY())
                .ifPresentOrElse(
                        n -> {
                            tip.setText(words(n));
                            Tooltip.install(this, tip);
                        },
                        () -> Tooltip.uninstall(this, tip)));
        setOnMouseClicked(e -> at(e.getX(), e.getY()).ifPresent(n -> onNight.accept(n.night())));
    }

    private static String words(SubSearch.OfNight n) {
        return n.date() + ", " + n.kit() + ": "
                + Words.format(
                        "%d of %d subs, %.1f h",
                        n.count().kept(), n.count().subs(), n.count().hoursKept());
    }

    /**
     * Shows nights; the year ends with the month of the latest.
     *
     * @param found in any order
     */
    void show(List<SubSearch.OfNight> found) {
        nights = new HashMap<>();
        found.forEach(n -> nights.computeIfAbsent(n.date(), d -> new java.util.ArrayList<>())
                .add(n));
        last = found.stream()
                .map(SubSearch.OfNight::date)
                .max(LocalDate::compareTo)
                .map(YearMonth::from)
                .orElse(last);
        stale();
    }

    private double cell() {
        return (getWidth() - LEFT) / DAYS;
    }

    private double row() {
        return (getHeight() - TOP) / MONTHS;
    }

    /** The night with most light at a place of the drawing. */
    Optional<SubSearch.OfNight> at(double x, double y) {
        int day = (int) Math.floor((x - LEFT) / cell()) + 1;
        int month = (int) Math.floor((y - TOP) / row());
        YearMonth of = last.minusMonths(MONTHS - 1 - month);
        return month < 0 || month >= MONTHS || day < 1 || day > of.lengthOfMonth()
                ? Optional.empty()
                : nights.getOrDefault(of.atDay(day), List.of()).stream()
                        .max(java.util.Comparator.comparingDouble(n -> n.count().hoursKept()));
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        double most =
                nights.values().stream().mapToDouble(CalendarView::hours).max().orElse(1);
        g.setTextBaseline(VPos.CENTER);
        g.setFont(Font.font("IBM Plex Sans", 11));
        g.setTextAlign(TextAlignment.CENTER);
        g.setFill(dim());
        for (int day = 1; day <= DAYS; day += 5) {
            g.fillText(Integer.toString(day), LEFT + (day - 0.5) * cell(), TOP / 2);
        }
        for (int i = 0; i < MONTHS; i++) {
            month(g, last.minusMonths(MONTHS - 1 - i), TOP + i * row(), most);
        }
    }

    private void month(GraphicsContext g, YearMonth month, double top, double most) {
        g.setFill(dim());
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(
                month.getMonth().getDisplayName(TextStyle.SHORT, Locale.ENGLISH) + " " + month.getYear(),
                0,
                top + row() / 2);
        g.setTextAlign(TextAlignment.CENTER);
        for (int day = 1; day <= month.lengthOfMonth(); day++) {
            double left = LEFT + (day - 1) * cell();
            List<SubSearch.OfNight> of = nights.get(month.atDay(day));
            if (of == null) {
                g.setFill(line());
                g.fillRect(left + cell() / 2 - 1, top + row() / 2 - 1, 2, 2);
                continue;
            }
            double hours = hours(of);
            cell(g, left + 1, top + 1, hours, hours / Math.max(1e-9, most));
        }
    }

    /** As full as the night was, and its hours where there is room to write them. */
    private void cell(GraphicsContext g, double left, double top, double hours, double share) {
        double wide = cell() - 2;
        double high = row() - 3;
        g.setStroke(accent());
        g.strokeRoundRect(left, top, wide, high, 4, 4);
        g.setFill(accent());
        g.fillRect(left, top + high * (1 - share), wide, high * share);
        if (wide >= ROOM_FOR_HOURS) {
            g.setFill(share > 0.6 ? night() : text());
            g.fillText(
                    hours >= 9.95 ? Words.format("%.0f", hours) : Words.format("%.1f", hours),
                    left + wide / 2,
                    top + high / 2);
        }
    }

    private static double hours(List<SubSearch.OfNight> of) {
        return of.stream().mapToDouble(n -> n.count().hoursKept()).sum();
    }
}
