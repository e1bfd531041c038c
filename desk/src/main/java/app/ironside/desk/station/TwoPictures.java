package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.picture.Shades;
import java.util.Optional;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;

/** Two pictures of one field beside each other, in the palette's tint. */
final class TwoPictures extends DrawnPane {
    private static final double CAPTION = 22;

    private Optional<GreyPicture> before = Optional.empty();
    private Optional<GreyPicture> now = Optional.empty();

    TwoPictures() {
        setMinHeight(160);
        setPrefHeight(300);
    }

    void show(Optional<GreyPicture> first, Optional<GreyPicture> last) {
        before = first;
        now = last;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        g.setTextAlign(TextAlignment.CENTER);
        g.setTextBaseline(VPos.CENTER);
        if (before.isEmpty() && now.isEmpty()) {
            g.setFill(dim());
            g.fillText("No stack of it lies where its night made it.", width / 2, height / 2);
        } else if (before.isEmpty() || now.isEmpty()) {
            draw(g, before.or(() -> now).orElseThrow(), 0, width, height);
        } else {
            draw(g, before.get(), 0, width / 2, height);
            draw(g, now.get(), width / 2, width / 2, height);
        }
    }

    private void draw(GraphicsContext g, GreyPicture picture, double left, double width, double height) {
        double room = height - CAPTION - 8;
        double scale = Math.min((width - 12) / picture.width(), room / picture.height());
        double w = scale * picture.width();
        double h = scale * picture.height();
        g.drawImage(
                Shades.image(picture.width(), picture.height(), picture.grey(), tint()),
                left + (width - w) / 2,
                4 + (room - h) / 2,
                w,
                h);
        g.setFill(text());
        g.fillText(picture.caption(), left + width / 2, height - CAPTION / 2 - 2, width - 12);
    }
}
