package app.ironside.desk.parts;

import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;

/** A plot of curves and points with axes that name their units. */
public final class Plot extends DrawnPane {
    /** Which of the palette's inks a curve is drawn in. */
    public enum Ink {
        ACCENT,
        COOL,
        GOOD,
        ALERT,
        SECOND,
        DIM
    }

    /** How a curve's points are shown. */
    public enum Style {
        LINE,
        DOTS,
        BOTH
    }

    /** A named row of points; NaN breaks a line. */
    public record Curve(String name, List<double[]> points, Ink ink, Style style) {}

    /**
     * All of a plot.
     *
     * @param vertical places on the x axis to mark with a line, with their names
     */
    public record State(
            String title, String xName, String yName, List<Curve> curves, List<Mark> vertical, boolean zeroLine) {
        public static final State EMPTY = new State("", "", "", List.of(), List.of(), false);

        /** The name of an x axis in hours that go on past midnight, labelled as a clock. */
        public static final String CLOCK = "local time";

        /** The name of a y axis whose values are decimal logarithms of arcseconds. */
        public static final String LOG_ARCSEC = "arcseconds, tenfold steps";

        /** The name of an x axis that counts nights. */
        public static final String NIGHTS = "night";

        /** An x axis that counts things has no tenths. */
        boolean counts() {
            return xName.equals("sub") || xName.equals("solve") || xName.equals(NIGHTS);
        }
    }

    /** A marked place. */
    public record Mark(double x, String name) {}

    private static final double LEFT = 62;
    private static final double RIGHT = 18;
    private static final double TOP = 36;
    private static final double BOTTOM = 44;

    private State state = State.EMPTY;
    private Axis across = new Axis(0, 1);
    private Axis up = new Axis(0, 1);
    private boolean crowded;

    public Plot() {
        getStyleClass().add("plot");
        setMinSize(120, 90);
    }

    public void show(State next) {
        state = next;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(state.title(), 16, 24);
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setFill(dim());
        crowded = titleWidth() + widthOf(state.yName(), 13) + legendWidth() + 32 > width;
        if (16 + titleWidth() + widthOf(state.yName(), 13) < width - RIGHT) {
            g.fillText(state.yName(), 16 + titleWidth(), 24);
        }
        if (state.curves().stream().flatMap(c -> c.points().stream()).allMatch(p -> Double.isNaN(p[1]))) {
            return;
        }
        range();
        axes(g, width, height);
        for (Curve curve : state.curves()) {
            draw(g, curve, width, height);
        }
        legend(g, width);
    }

    private double titleWidth() {
        Text measure = new Text(state.title());
        measure.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
        return measure.getLayoutBounds().getWidth() + 10;
    }

    private static double widthOf(String words, double size) {
        Text measure = new Text(words);
        measure.setFont(Font.font("IBM Plex Sans", size));
        return measure.getLayoutBounds().getWidth();
    }

    private double legendWidth() {
        return state.curves().stream()
                .filter(c -> !c.name().isEmpty())
                .mapToDouble(c -> widthOf(c.name(), 13) + 44)
                .sum();
    }

    /** A legend that does not fit beside the title takes a line of its own. */
    private double top() {
        return crowded ? TOP + 22 : TOP;
    }

    private void range() {
        double x0 = Double.POSITIVE_INFINITY;
        double x1 = Double.NEGATIVE_INFINITY;
        double y0 = state.zeroLine() ? 0 : Double.POSITIVE_INFINITY;
        double y1 = state.zeroLine() ? 0 : Double.NEGATIVE_INFINITY;
        for (Curve curve : state.curves()) {
            for (double[] p : curve.points()) {
                if (!Double.isNaN(p[1])) {
                    x0 = Math.min(x0, p[0]);
                    x1 = Math.max(x1, p[0]);
                    y0 = Math.min(y0, p[1]);
                    y1 = Math.max(y1, p[1]);
                }
            }
        }
        across = Axis.around(x0, x1, 0.03);
        up = Axis.around(y0, y1, 0.1);
    }

    private double px(double x, double width) {
        return across.at(x, LEFT, width - RIGHT);
    }

    private double py(double y, double height) {
        return up.at(y, height - BOTTOM, top());
    }

    private void axes(GraphicsContext g, double width, double height) {
        boolean log = state.yName().equals(State.LOG_ARCSEC);
        double yStep = log ? 1 : up.step(Math.max(2, (height - top() - BOTTOM) / 48));
        boolean clock = state.xName().equals(State.CLOCK);
        double xStep =
                clock ? 2 : Math.max(state.counts() ? 1 : 0, across.step(Math.max(2, (width - LEFT - RIGHT) / 64)));
        g.setLineWidth(1);
        g.setTextAlign(TextAlignment.RIGHT);
        for (double v : up.ticks(yStep)) {
            g.setStroke(line());
            g.strokeLine(LEFT, py(v, height), width - RIGHT, py(v, height));
            g.setFill(dim());
            g.fillText(log ? Axis.label(Math.pow(10, v), 1) : Axis.label(v, yStep), LEFT - 7, py(v, height) + 4);
        }
        g.setTextAlign(TextAlignment.CENTER);
        for (double v : across.ticks(xStep)) {
            g.setFill(dim());
            g.fillText(
                    clock ? Words.format("%02.0f", v % 24) : Axis.label(v, xStep), px(v, width), height - BOTTOM + 17);
        }
        g.fillText(state.xName(), LEFT + (width - LEFT - RIGHT) / 2, height - 8);
        for (Mark mark : state.vertical()) {
            g.setStroke(accent());
            g.setLineDashes(4, 4);
            g.strokeLine(px(mark.x(), width), top(), px(mark.x(), width), height - BOTTOM);
            g.setLineDashes();
            g.setFill(accent());
            g.setTextAlign(px(mark.x(), width) > width * 0.7 ? TextAlignment.RIGHT : TextAlignment.LEFT);
            g.fillText(" " + mark.name() + " ", px(mark.x(), width), top() + 14);
        }
    }

    private void draw(GraphicsContext g, Curve curve, double width, double height) {
        Color color = colour(curve.ink());
        if (curve.style() != Style.DOTS) {
            g.setStroke(color);
            g.setLineWidth(curve.ink() == Ink.DIM ? 1.2 : 2);
            double[] before = null;
            for (double[] p : curve.points()) {
                if (Double.isNaN(p[1])) {
                    before = null;
                } else {
                    if (before != null) {
                        g.strokeLine(px(before[0], width), py(before[1], height), px(p[0], width), py(p[1], height));
                    }
                    before = p;
                }
            }
        }
        if (curve.style() != Style.LINE) {
            g.setFill(color);
            for (double[] p : curve.points()) {
                g.fillOval(px(p[0], width) - 4.5, py(p[1], height) - 4.5, 9, 9);
            }
        }
    }

    private void legend(GraphicsContext g, double width) {
        double x = width - RIGHT;
        double y = crowded ? 46 : 24;
        g.setTextAlign(TextAlignment.RIGHT);
        for (int i = state.curves().size() - 1; i >= 0; i--) {
            Curve curve = state.curves().get(i);
            if (!curve.name().isEmpty()) {
                Color color = colour(curve.ink());
                g.setFill(text());
                g.fillText(curve.name(), x, y);
                x -= widthOf(curve.name(), 13) + 8;
                g.setFill(color);
                g.setStroke(color);
                g.setLineWidth(2.4);
                if (curve.style() == Style.DOTS) {
                    g.fillOval(x - 9, y - 9, 9, 9);
                } else {
                    g.strokeLine(x - 16, y - 5, x, y - 5);
                }
                x -= 36;
            }
        }
    }

    private Color colour(Ink ink) {
        return switch (ink) {
            case ACCENT -> accent();
            case COOL -> cool();
            case GOOD -> good();
            case ALERT -> alert();
            case SECOND -> second();
            case DIM -> dim();
        };
    }
}
