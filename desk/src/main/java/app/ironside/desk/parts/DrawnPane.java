package app.ironside.desk.parts;

import java.util.List;
import java.util.function.Function;
import javafx.css.CssMetaData;
import javafx.css.Styleable;
import javafx.css.StyleableProperty;
import javafx.css.StyleablePropertyFactory;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;

/**
 * A region that draws itself on a canvas in the palette's colours, which reach it as styleable properties. However often it is
 * marked stale, it draws once a frame.
 */
public abstract class DrawnPane extends Region {
    private static final StyleablePropertyFactory<DrawnPane> FACTORY =
            new StyleablePropertyFactory<>(Region.getClassCssMetaData());

    private final Canvas canvas = new Canvas();
    private final StyleableProperty<Color> night = ink("-ink-night", p -> p.night);
    private final StyleableProperty<Color> panel = ink("-ink-panel", p -> p.panel);
    private final StyleableProperty<Color> line = ink("-ink-line", p -> p.line);
    private final StyleableProperty<Color> text = ink("-ink-text", p -> p.text);
    private final StyleableProperty<Color> dim = ink("-ink-dim", p -> p.dim);
    private final StyleableProperty<Color> accent = ink("-ink-accent", p -> p.accent);
    private final StyleableProperty<Color> good = ink("-ink-good", p -> p.good);
    private final StyleableProperty<Color> alert = ink("-ink-alert", p -> p.alert);
    private final StyleableProperty<Color> cool = ink("-ink-cool", p -> p.cool);
    private final StyleableProperty<Color> second = ink("-ink-second", p -> p.second);
    private final StyleableProperty<Color> third = ink("-ink-third", p -> p.third);
    private final StyleableProperty<Color> day = ink("-ink-day", p -> p.day);
    private final StyleableProperty<Color> tint = ink("-ink-tint", p -> p.tint);

    public DrawnPane() {
        getStyleClass().add("drawn");
        canvas.setManaged(false);
        getChildren().add(canvas);
    }

    private StyleableProperty<Color> ink(String name, Function<DrawnPane, StyleableProperty<Color>> of) {
        StyleableProperty<Color> property = FACTORY.createStyleableColorProperty(this, name, name, of, Color.GRAY);
        ((javafx.beans.value.ObservableValue<?>) property).addListener((o, was, is) -> stale());
        return property;
    }

    /** Marks the drawing as out of date. */
    protected final void stale() {
        requestLayout();
    }

    @Override
    protected void layoutChildren() {
        double width = Math.floor(getWidth());
        double height = Math.floor(getHeight());
        canvas.setWidth(width);
        canvas.setHeight(height);
        if (width > 4 && height > 4) {
            GraphicsContext g = canvas.getGraphicsContext2D();
            g.clearRect(0, 0, width, height);
            g.setFont(javafx.scene.text.Font.font("IBM Plex Sans", 13));
            draw(g, width, height);
        }
    }

    /** Draws everything. */
    protected abstract void draw(GraphicsContext g, double width, double height);

    @Override
    public List<CssMetaData<? extends Styleable, ?>> getCssMetaData() {
        return FACTORY.getCssMetaData();
    }

    protected Color night() {
        return night.getValue();
    }

    protected Color panel() {
        return panel.getValue();
    }

    protected Color line() {
        return line.getValue();
    }

    protected Color text() {
        return text.getValue();
    }

    protected Color dim() {
        return dim.getValue();
    }

    protected Color accent() {
        return accent.getValue();
    }

    protected Color good() {
        return good.getValue();
    }

    protected Color alert() {
        return alert.getValue();
    }

    protected Color cool() {
        return cool.getValue();
    }

    protected Color second() {
        return second.getValue();
    }

    protected Color third() {
        return third.getValue();
    }

    protected Color day() {
        return day.getValue();
    }

    protected Color tint() {
        return tint.getValue();
    }

    protected static Color faded(Color color, double opacity) {
        return new Color(color.getRed(), color.getGreen(), color.getBlue(), opacity);
    }
}
