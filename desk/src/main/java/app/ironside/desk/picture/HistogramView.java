package app.ironside.desk.picture;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.image.Histogram;
import java.util.Arrays;
import java.util.Optional;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/** The levels of a file as it was read out, however the picture beside it is stretched: heights by the logarithm of their number. */
public final class HistogramView extends DrawnPane {
    private static final double FOOT = 20;

    private Optional<Histogram> levels = Optional.empty();
    private double background;

    public HistogramView() {
        setMinSize(200, 74);
        setPrefHeight(74);
        setId("histogram");
    }

    public void clear() {
        levels = Optional.empty();
        stale();
    }

    /**
     * @param backgroundAdu level of the sky, which is marked
     */
    public void show(Histogram next, double backgroundAdu) {
        levels = Optional.of(next);
        background = backgroundAdu;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        levels.ifPresent(h -> draw(g, h, width - 20, height - FOOT - 6));
    }

    private void draw(GraphicsContext g, Histogram h, double width, double height) {
        double most = Math.log1p(Arrays.stream(h.counts()).max().orElse(1));
        double step = width / h.counts().length;
        g.setFill(faded(text(), 0.75));
        for (int i = 0; i < h.counts().length; i++) {
            double up = height * Math.log1p(h.counts()[i]) / most;
            g.fillRect(10 + i * step, 6 + height - up, Math.max(1, step), up);
        }
        double range = Math.max(1e-12, h.most() - h.least());
        double sky = 10 + width * Math.max(0, Math.min(1, (background - h.least()) / range));
        g.setStroke(accent());
        g.setLineWidth(2);
        g.strokeLine(sky, 4, sky, 6 + height);
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.setTextBaseline(VPos.TOP);
        g.setFill(dim());
        g.setTextAlign(TextAlignment.LEFT);
        g.fillText(Words.format("%.0f", h.least()), 10, 8 + height);
        g.setTextAlign(TextAlignment.RIGHT);
        g.setFill(h.isClipped() ? alert() : dim());
        g.fillText(
                h.isClipped()
                        ? Words.format("%.1f %% cut off at %.0f ADU", 100 * h.topShare(), h.most())
                        : Words.format("%.0f ADU", h.most()),
                10 + width,
                8 + height);
    }
}
