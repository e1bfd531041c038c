package app.ironside.desk.darkroom;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.picture.PictureLevels;
import app.ironside.desk.picture.PicturePane;
import app.ironside.desk.picture.Shown;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.image.Stretch;
import app.ironside.solve.PlaneTransform;
import app.ironside.stack.Resampling;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.StackPane;

/** The picture of what is chosen in the darkroom: a frame, a finished picture in its colours, or two under a curtain. */
final class DarkroomPicture extends StackPane implements AutoCloseable {
    /** Larger than any screen shows of it. */
    private static final double MOST_SHOWN_PX = 2400;

    private final BackgroundWork loading = new BackgroundWork("darkroom picture");
    private final PicturePane grey = new PicturePane("Choose a line.");
    private final ImageView colours = new ImageView();
    private Map<Path, PlaneTransform> lies = Map.of();
    private Optional<Stretch> oneStretch = Optional.empty();

    private record Seen(PictureLevels levels, Stretch stretch) {}

    DarkroomPicture(String whenEmpty) {
        grey.setWhenEmpty(whenEmpty);
        colours.setPreserveRatio(true);
        colours.setId("darkroom-colours");
        colours.setVisible(false);
        colours.fitWidthProperty().bind(widthProperty());
        colours.fitHeightProperty().bind(heightProperty());
        setMinSize(0, 0);
        getChildren().setAll(grey, colours);
    }

    /** What is said where there is no picture. */
    void setWhenEmpty(String words) {
        grey.setWhenEmpty(words);
    }

    boolean isIdle() {
        return loading.isIdle();
    }

    /**
     * Another series of lights was judged: they are stretched anew, all alike.
     *
     * @param lies how each lies on the first; one that is missing is shown as it is
     */
    void setSeries(Map<Path, PlaneTransform> lies) {
        this.lies = Map.copyOf(lies);
        oneStretch = Optional.empty();
    }

    /** Two pictures under a curtain; on another reference, which is not the same piece of sky, the second alone. */
    void hold(Curtain curtain) {
        colours.setVisible(false);
        if (curtain.isOfOneSize()) {
            grey.compare(curtain.left(), curtain.right());
        } else {
            grey.show(Optional.of(curtain.right()), Optional.empty());
        }
    }

    /**
     * Shows the picture of a line.
     *
     * @param blink whether lights of a series are stepped through, which lie on one another then and are stretched alike
     */
    void show(Optional<DarkroomLine> line, boolean blink) {
        Optional<Path> file = line.flatMap(DarkroomLine::picture);
        boolean coloured =
                file.filter(f -> f.getFileName().toString().endsWith(".png")).isPresent() && !isRed();
        colours.setVisible(coloured);
        if (file.isEmpty() || coloured) {
            grey.show(Optional.empty(), Optional.empty());
        }
        if (coloured) {
            grey.setWhenEmpty("");
            colours.setImage(new Image(file.get().toUri().toString(), MOST_SHOWN_PX, MOST_SHOWN_PX, true, true, true));
        } else if (file.isPresent()) {
            load(file.get(), line.get().head(), blink);
        }
    }

    private void load(Path file, String head, boolean blink) {
        Optional<PlaneTransform> placed = blink ? Optional.ofNullable(lies.get(file)) : Optional.empty();
        Optional<Stretch> stretch = blink ? oneStretch : Optional.empty();
        loading.ask(progress -> {
                    Frame raw = read(file);
                    Frame frame = placed.map(t -> Resampling.onto(raw, t, raw.width(), raw.height()))
                            .orElse(raw);
                    Stretch how = stretch.orElseGet(() -> Stretch.automatic(frame));
                    return new Seen(PictureLevels.of(new Shown(file + " " + blink, head, frame, List.of()), how), how);
                })
                .onlyNewest()
                .failed(why -> {
                    grey.show(Optional.empty(), Optional.empty());
                    grey.setWhenEmpty(why);
                })
                .then(seen -> {
                    if (blink && oneStretch.isEmpty()) {
                        oneStretch = Optional.of(seen.stretch());
                    }
                    grey.show(Optional.of(seen.levels()), Optional.empty());
                });
    }

    /** Under the red palette nothing shines in another colour. */
    private boolean isRed() {
        return getScene() != null && getScene().getStylesheets().stream().anyMatch(s -> s.endsWith("/red.css"));
    }

    /** Of a finished picture the brightness, from its sister of 16 bits. */
    private static Frame read(Path file) {
        String name = file.getFileName().toString();
        return FrameFiles.read(file.resolveSibling(name.replaceFirst("\\.png$", ".tif")));
    }

    @Override
    public void close() {
        loading.close();
    }
}
