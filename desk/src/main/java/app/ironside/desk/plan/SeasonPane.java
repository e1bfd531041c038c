package app.ironside.desk.plan;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.plan.SeasonBoard;
import app.ironside.plan.SeasonBoard.ObjectClass;
import java.time.LocalDate;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/** A year of nights: a strip for each target, one column a night, and the months by class of object below. Click a night to plan it. */
public final class SeasonPane extends DrawnPane {
    private static final double NAMES = 118;
    private static final double RIGHT = 16;
    private static final double TOP = 58;
    private static final double MONTHS = 132;
    private static final double MOST_ROW = 52;

    private final PlanDesk plan;
    private Optional<SeasonBoard> board = Optional.empty();
    private double pointerX = -1;
    private double pointerY = -1;

    SeasonPane(PlanDesk plan) {
        this.plan = plan;
        getStyleClass().add("plot");
        setId("season");
        setMinSize(200, 200);
        setOnMouseMoved(this::pointed);
        setOnMouseExited(e -> {
            pointerX = -1;
            stale();
        });
        setOnMouseClicked(e -> night(e.getX()).ifPresent(date -> {
            row(e.getY()).ifPresent(r -> plan.targets().look(r.object()));
            plan.setDate(date);
        }));
    }

    void refresh() {
        board = plan.targets().season();
        stale();
    }

    private void pointed(MouseEvent e) {
        pointerX = e.getX();
        pointerY = e.getY();
        stale();
    }

    private double rowHeight() {
        int rows = board.map(b -> b.rows().size()).orElse(1);
        return Math.min(MOST_ROW, (getHeight() - TOP - MONTHS - 12) / Math.max(1, rows));
    }

    private Optional<SeasonBoard.Row> row(double y) {
        int i = (int) Math.floor((y - TOP) / rowHeight());
        return board.filter(b -> i >= 0 && i < b.rows().size())
                .map(b -> b.rows().get(i));
    }

    private Optional<LocalDate> night(double x) {
        if (board.isEmpty() || x < NAMES || x > getWidth() - RIGHT) {
            return Optional.empty();
        }
        List<LocalDate> nights = board.get().nights();
        int i = (int) ((x - NAMES) / (getWidth() - NAMES - RIGHT) * nights.size());
        return Optional.of(nights.get(Math.max(0, Math.min(nights.size() - 1, i))));
    }

    private double xOf(int night) {
        return NAMES
                + (getWidth() - NAMES - RIGHT)
                        * night
                        / board.orElseThrow().nights().size();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        title(g, "Effective hours, night by night");
        if (board.isEmpty()) {
            g.setFill(dim());
            g.setTextAlign(TextAlignment.CENTER);
            g.fillText("Weighing a year of nights…", width / 2, height / 2);
            return;
        }
        SeasonBoard b = board.get();
        drawMonths(g, b);
        for (int i = 0; i < b.rows().size(); i++) {
            drawRow(g, b, b.rows().get(i), TOP + i * rowHeight());
        }
        drawTonight(g, b);
        drawClasses(g, b, width, height);
        drawPointer(g, b, width);
    }

    private void title(GraphicsContext g, String words) {
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(words, 16, 24);
        g.setFont(Font.font("IBM Plex Sans", 13));
    }

    private void drawMonths(GraphicsContext g, SeasonBoard b) {
        g.setTextAlign(TextAlignment.LEFT);
        for (int i = 0; i < b.nights().size(); i++) {
            if (b.nights().get(i).getDayOfMonth() == 1) {
                g.setStroke(line());
                g.strokeLine(xOf(i), TOP - 6, xOf(i), TOP + b.rows().size() * rowHeight());
                g.setFill(dim());
                g.fillText(
                        b.nights().get(i).getMonth().getDisplayName(TextStyle.SHORT, Locale.ENGLISH),
                        xOf(i) + 3,
                        TOP - 8);
            }
        }
    }

    private void drawRow(GraphicsContext g, SeasonBoard b, SeasonBoard.Row row, double top) {
        double h = rowHeight() - 6;
        boolean looked = plan.looked().filter(o -> o == row.object()).isPresent();
        g.setFill(looked ? accent() : text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(row.object().id(), 16, top + h / 2);
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setFill(dim());
        if (h > 26) {
            g.fillText(Words.format("best %.1f h", row.best()), 16, top + h / 2 + 15);
        }
        double most = b.rows().stream().mapToDouble(SeasonBoard.Row::best).max().orElse(1);
        double step = xOf(1) - xOf(0);
        Color full = looked ? accent() : cool();
        for (int i = 0; i < row.hours().size(); i++) {
            double share = row.hours().get(i) / Math.max(0.1, most);
            g.setFill(faded(full, 0.06 + 0.94 * share));
            g.fillRect(xOf(i), top + h * (1 - share), step + 0.4, h * share);
        }
        g.setStroke(line());
        g.setLineWidth(1);
        g.strokeLine(NAMES, top + h + 0.5, getWidth() - RIGHT, top + h + 0.5);
        row.season(plan.file().program().date()).ifPresent(s -> {
            sign(g, b, s.bestFrom(), top + h, true);
            sign(g, b, s.lastUseful(), top + h, false);
        });
    }

    /** A triangle up where the best span begins, down where the last useful night is. */
    private void sign(GraphicsContext g, SeasonBoard b, LocalDate date, double y, boolean first) {
        int night = b.nights().indexOf(date);
        if (night < 0) {
            return; // beyond the board
        }
        double x = xOf(night);
        g.setFill(first ? good() : alert());
        if (first) {
            g.fillPolygon(new double[] {x - 5, x + 5, x}, new double[] {y + 5, y + 5, y - 4}, 3);
        } else {
            g.fillPolygon(new double[] {x - 5, x + 5, x}, new double[] {y - 4, y - 4, y + 5}, 3);
        }
    }

    private void drawTonight(GraphicsContext g, SeasonBoard b) {
        int i = b.nights().indexOf(plan.file().program().date());
        if (i >= 0) {
            g.setStroke(accent());
            g.setLineWidth(1.6);
            g.strokeLine(xOf(i), TOP - 22, xOf(i), TOP + b.rows().size() * rowHeight());
        }
        g.setTextAlign(TextAlignment.RIGHT);
        g.setFill(good());
        g.fillText("▲ best from", getWidth() - RIGHT - 110, 24);
        g.setFill(alert());
        g.fillText("▼ last useful", getWidth() - RIGHT, 24);
    }

    private void drawClasses(GraphicsContext g, SeasonBoard b, double width, double height) {
        double top = height - MONTHS;
        g.setFill(text());
        g.setTextAlign(TextAlignment.LEFT);
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
        g.fillText("Best night of each month, by class", 16, top + 14);
        g.setFont(Font.font("IBM Plex Sans", 13));
        Map<Month, Map<ObjectClass, Double>> months = b.months();
        List<ObjectClass> classes = new ArrayList<>(new EnumMap<>(months.get(Month.JANUARY)).keySet());
        double most = months.values().stream()
                .flatMap(m -> m.values().stream())
                .mapToDouble(Double::doubleValue)
                .max()
                .orElse(1);
        double step = (width - NAMES - RIGHT) / 12;
        double base = height - 24;
        for (int c = 0; c < classes.size(); c++) {
            Color color = List.of(cool(), accent(), second()).get(classes.get(c).ordinal());
            g.setFill(color);
            g.fillRect(16, top + 28 + c * 20, 10, 10);
            g.setFill(dim());
            g.fillText(classes.get(c).words(), 32, top + 38 + c * 20);
        }
        Month month = b.nights().get(0).getMonth();
        for (int m = 0; m < 12; m++) {
            for (int c = 0; c < classes.size(); c++) {
                double share = months.get(month).get(classes.get(c)) / Math.max(0.1, most);
                double w = (step - 12) / classes.size();
                g.setFill(List.of(cool(), accent(), second()).get(classes.get(c).ordinal()));
                g.fillRect(NAMES + m * step + 4 + c * w, base - share * (MONTHS - 56), w - 2, share * (MONTHS - 56));
            }
            g.setFill(dim());
            g.setTextAlign(TextAlignment.CENTER);
            g.fillText(month.getDisplayName(TextStyle.SHORT, Locale.ENGLISH), NAMES + (m + 0.5) * step, height - 8);
            month = month.plus(1);
        }
    }

    private void drawPointer(GraphicsContext g, SeasonBoard b, double width) {
        Optional<LocalDate> date = pointerX < 0 ? Optional.empty() : night(pointerX);
        if (date.isEmpty() || row(pointerY).isEmpty()) {
            return;
        }
        int i = b.nights().indexOf(date.get());
        double value = row(pointerY).get().hours().get(i);
        g.setFill(text());
        g.setTextAlign(TextAlignment.CENTER);
        g.fillText(
                Words.format(
                        "%s: %.1f h, %.1f h dark without Moon",
                        date.get(), value, b.moonlessDarkHours().get(i)),
                Math.max(NAMES + 140, Math.min(width - 160, pointerX)),
                TOP - 26);
    }
}
