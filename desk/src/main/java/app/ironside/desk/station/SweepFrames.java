package app.ironside.desk.station;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.desk.picture.Shades;
import app.ironside.journal.FocusSwept;
import java.nio.file.Path;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.Image;
import javafx.scene.text.TextAlignment;
import javafx.util.Duration;

/**
 * One star of a sweep in each of its frames: all beside one another, and one of them large, which changes from frame to frame while it blinks.
 * A click holds one of them, and so does going on by hand.
 */
final class SweepFrames extends DrawnPane implements AutoCloseable {
    private static final double CAPTION = 24;
    private static final double GAP = 6;
    private static final double LEAST_SMALL = 52;
    private static final Duration BLINK = Duration.millis(450);

    private final BackgroundWork work = new BackgroundWork("frames of a sweep");
    private final Timeline blinking = new Timeline(new KeyFrame(BLINK, e -> step(1)));
    private Optional<FocusSwept> run = Optional.empty();
    private Optional<Image> strip = Optional.empty();
    private int chosen;
    private String nothing = "";
    private Runnable onHeld = () -> {};

    SweepFrames() {
        setId("sweep-frames");
        blinking.setCycleCount(Animation.INDEFINITE);
        setOnMouseClicked(e -> {
            for (int i = 0; i < count(); i++) {
                double[] place = small(i);
                if (e.getX() >= place[0]
                        && e.getX() < place[0] + place[2]
                        && e.getY() >= place[1]
                        && e.getY() < place[1] + place[2]) {
                    hold(i);
                }
            }
        });
    }

    /**
     * @param of the run whose frames are wanted
     * @param folder of the night
     */
    void show(Optional<FocusSwept> of, Optional<Path> folder) {
        if (of.equals(run)) {
            return;
        }
        run = of;
        strip = Optional.empty();
        Optional<FocusSwept.Strip> kept = of.flatMap(FocusSwept::strip);
        nothing = of.isEmpty()
                ? "The frames of a sweep will come here."
                : "Of this sweep no frames are kept: it was rough, or rehearsed without pixels.";
        if (kept.isEmpty() || folder.isEmpty()) {
            stale();
            return;
        }
        Path file = folder.get().resolve(kept.get().file());
        work.ask(progress -> GreyPicture.read(file, ""))
                .onlyNewest()
                .failed(this::say)
                .then(read -> {
                    strip = read.map(p -> Shades.image(p.width(), p.height(), p.grey(), tint()));
                    nothing = "The picture of this sweep is no longer in the night's folder.";
                    chosen = sharpest();
                    stale();
                });
    }

    private void say(String why) {
        nothing = why;
        stale();
    }

    /** Goes from frame to frame by itself, or holds one. */
    void blink(boolean on) {
        if (on) {
            blinking.play();
        } else {
            blinking.stop();
        }
    }

    /** @param action when a person holds a frame */
    void setOnHeld(Runnable action) {
        onHeld = action;
    }

    private void hold(int frame) {
        move(frame - chosen);
    }

    /** Goes on by hand, over the ends. */
    void move(int by) {
        blinking.stop();
        onHeld.run();
        step(by);
    }

    private void step(int by) {
        if (count() > 0) {
            chosen = Math.floorMod(chosen + by, count());
            stale();
        }
    }

    private int count() {
        return strip.isEmpty()
                ? 0
                : run.flatMap(FocusSwept::strip).map(s -> s.positions().size()).orElse(0);
    }

    private int position(int frame) {
        return run.flatMap(FocusSwept::strip).orElseThrow().positions().get(frame);
    }

    /** The square whose position is nearest to where the run ended. */
    private int sharpest() {
        int best = 0;
        for (int i = 1; i < count(); i++) {
            double end = run.orElseThrow().verdict().bestPosition();
            best = Math.abs(position(i) - end) < Math.abs(position(best) - end) ? i : best;
        }
        return best;
    }

    private double large() {
        return Math.max(LEAST_SMALL, Math.min(getHeight() - CAPTION - 2 * GAP, getWidth() / 2));
    }

    /** Left, top and side of a small square. */
    private double[] small(int frame) {
        double left = large() + 3 * GAP;
        double room = Math.max(LEAST_SMALL, getWidth() - left - GAP);
        int across =
                (int) Math.max(1, Math.min(count(), Math.ceil(Math.sqrt(count() * room / Math.max(1, getHeight())))));
        int down = (int) Math.ceil(count() / (double) across);
        double side = Math.min(room / across - GAP, getHeight() / down - CAPTION - GAP);
        return new double[] {left + frame % across * (side + GAP), GAP + frame / across * (side + CAPTION + GAP), side};
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        g.setTextAlign(TextAlignment.CENTER);
        g.setTextBaseline(VPos.CENTER);
        g.setImageSmoothing(false);
        if (count() == 0) {
            g.setFill(dim());
            g.fillText(nothing, width / 2, height / 2);
            return;
        }
        setAccessibleText(caption(chosen));
        double side = large();
        square(g, chosen, GAP, GAP, side);
        g.setFill(text());
        g.fillText(caption(chosen), GAP + side / 2, GAP + side + CAPTION / 2, side);
        for (int i = 0; i < count(); i++) {
            double[] place = small(i);
            square(g, i, place[0], place[1], place[2]);
            g.setStroke(i == chosen ? accent() : line());
            g.setLineWidth(i == chosen ? 3 : 1);
            g.strokeRect(place[0], place[1], place[2], place[2]);
            g.setFill(i == chosen ? text() : dim());
            g.fillText(String.valueOf(position(i)), place[0] + place[2] / 2, place[1] + place[2] + CAPTION / 2);
        }
    }

    private String caption(int frame) {
        return run.orElseThrow().points().stream()
                .filter(p -> Math.round(p.position()) == position(frame))
                .findFirst()
                .map(p -> Words.format("%d steps, %.2f px", position(frame), p.size()))
                .orElseGet(() -> Words.format("%d steps, no size", position(frame)));
    }

    private void square(GraphicsContext g, int frame, double x, double y, double side) {
        Image image = strip.orElseThrow();
        double of = image.getHeight();
        g.drawImage(image, frame * of, 0, of, of, x, y, side, side);
    }

    @Override
    public void close() {
        blinking.stop();
        work.close();
    }
}
