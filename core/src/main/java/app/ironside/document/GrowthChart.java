package app.ironside.document;

import app.ironside.logbook.Gathering;
import java.awt.BasicStroke;
import java.awt.Graphics2D;
import java.awt.geom.Line2D;
import java.awt.geom.Rectangle2D;
import java.util.List;
import java.util.Locale;

/** Hours kept by filter against those wanted: a bar a filter, parted by nights, with a line where it is to end. */
final class GrowthChart {
    private static final int WIDTH = PaperChart.WIDTH;
    private static final int ROW = 64;
    private static final int BAR = 34;
    private static final int LEFT = 150;
    private static final int RIGHT = 240;

    private final Project project;
    private final double most;

    GrowthChart(Project project) {
        this.project = project;
        this.most = project.filters().stream()
                .mapToDouble(f -> Math.max(
                        project.of().kept().getOrDefault(f, 0.0),
                        project.wanted().getOrDefault(f, 0.0)))
                .max()
                .orElse(1);
    }

    /** The chart as PNG. */
    byte[] png() {
        List<String> filters = project.filters();
        return PaperChart.png(Math.max(1, filters.size()) * ROW + 8, 26, g -> {
            for (int i = 0; i < filters.size(); i++) {
                bar(g, filters.get(i), i * ROW + 12);
            }
        });
    }

    private double x(double hours) {
        return LEFT + hours / most * (WIDTH - LEFT - RIGHT);
    }

    private void bar(Graphics2D g, String filter, int top) {
        g.setColor(PaperChart.INK);
        g.drawString(filter, 4, top + 27);
        double sum = 0;
        boolean shaded = false;
        for (Gathering.Night night : project.of().nights()) {
            double hours = night.hours().getOrDefault(filter, 0.0);
            if (hours > 0) {
                double from = x(sum);
                sum += hours;
                g.setColor(shaded ? PaperChart.FAINT : PaperChart.INK);
                g.fill(new Rectangle2D.Double(from, top, x(sum) - from, BAR));
                shaded = !shaded;
            }
        }
        Double goal = project.wanted().get(filter);
        g.setColor(PaperChart.INK);
        g.setStroke(new BasicStroke(2));
        g.draw(new Rectangle2D.Double(LEFT, top, x(goal == null ? sum : goal) - LEFT, BAR));
        if (goal != null) {
            g.setStroke(new BasicStroke(5));
            g.draw(new Line2D.Double(x(goal), top - 7.0, x(goal), top + BAR + 7.0));
        }
        g.drawString(
                goal == null
                        ? String.format(Locale.ROOT, "%.1f h", sum)
                        : String.format(Locale.ROOT, "%.1f of %.1f h", sum, goal),
                (float) (WIDTH - RIGHT + 20),
                top + 27f);
    }
}
