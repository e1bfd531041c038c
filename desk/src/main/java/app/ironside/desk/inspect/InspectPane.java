package app.ironside.desk.inspect;

import app.ironside.Progress;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.FilePane;
import app.ironside.desk.parts.NameField;
import app.ironside.desk.parts.Words;
import app.ironside.desk.picture.HistogramView;
import app.ironside.desk.picture.PicturePane;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningView;
import app.ironside.focus.MaskPattern;
import app.ironside.image.FolderWatch;
import app.ironside.image.FrameFiles;
import app.ironside.image.Header;
import app.ironside.kit.Kit;
import app.ironside.logbook.SharpStars;
import app.ironside.point.FramingMatch;
import app.ironside.point.Nudge;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Sexagesimal;
import app.ironside.sky.SkyNames;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.StarShelf;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** One file, looked at closely: dropped on the window, measured and solved in the background. The file is never changed. */
public final class InspectPane extends BorderPane implements AutoCloseable {
    /** Stars within this factor of the best are as sharp as the air lets tell. */
    private static final double ALIKE = 1.07;

    private final StarShelf shelf;
    private final DeepSkyCatalogue objects;
    private final Runnable away;
    private final BackgroundWork work = new BackgroundWork("inspect");
    private final BackgroundWork listing = new BackgroundWork("watched folder");
    private boolean listed = true;
    private final PicturePane picture = new PicturePane("Measuring…");
    private final FieldMapView map = new FieldMapView();
    private final HistogramView levels = new HistogramView();
    private final Label field = new Label();
    private final ReckoningView reckoning = new ReckoningView();
    private final Label title = new Label();
    private final Label said = new Label();

    /** Largest of all while a folder is watched: what a hand at the focus ring waits for. */
    private final Label live = new Label();

    private final ChoiceBox<MaskPattern.Lean> lean = new ChoiceBox<>();
    private final Supplier<Kit> kit;
    private Optional<MaskPattern> maskBefore = Optional.empty();
    private double bestSize = Double.POSITIVE_INFINITY;
    private final Function<String, SharpStars> known;
    private SharpStars bestKnown = SharpStars.NONE;
    private final ToggleButton sky = new ToggleButton("Sky");
    private final ToggleButton rings = new ToggleButton("Stars");
    private final ToggleButton residuals = new ToggleButton("Residuals");
    private final FlowPane tools = new FlowPane(6, 6);
    private final NameField target;
    private final ToggleButton finder = new ToggleButton("Point by the finder");
    private final ToggleButton watch = new ToggleButton("Watch a folder…");
    private final Label nudge = new Label();
    private final Timeline watching = new Timeline(new KeyFrame(Duration.millis(700), e -> look()));
    private Optional<FolderWatch> folder = Optional.empty();
    private Optional<Inspection> shown = Optional.empty();
    private List<Path> files = List.of();
    private int at;
    private final Button before = button("file-before", "‹", () -> step(at - 1));
    private final Button after = button("file-after", "›", () -> step(at + 1));

    /**
     * @param kit that frames are taken with
     * @param known the smallest stars that a kit of that name ever showed, px; asked beside the interface
     * @param toStars shows the stars to go by
     * @param away takes this view off the desk
     */
    public InspectPane(
            StarShelf shelf,
            DeepSkyCatalogue objects,
            Supplier<SkyNames> names,
            Supplier<Kit> kit,
            Function<String, SharpStars> known,
            Runnable toStars,
            Runnable away) {
        this.kit = kit;
        this.known = known;
        this.shelf = shelf;
        this.objects = objects;
        this.away = away;
        setId("inspect");
        getStyleClass().add("inspect");
        title.getStyleClass().add("verdict");
        title.setId("inspect-title");
        said.getStyleClass().add("status");
        field.setWrapText(true);
        field.setMinHeight(Region.USE_PREF_SIZE);
        field.setId("field-words");
        sky.setSelected(true);
        for (ToggleButton b : new ToggleButton[] {sky, rings, residuals}) {
            b.setOnAction(e -> overlays());
        }
        before.setVisible(false);
        after.setVisible(false);
        Button close = button("close-inspect", "Back to the night (Esc)", away);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox head = new HBox(
                10,
                title,
                before,
                after,
                gap,
                sky,
                rings,
                residuals,
                button("to-stars", "Stars to go by (G)", toStars),
                close);
        head.setAlignment(Pos.CENTER_LEFT);
        head.setPadding(new Insets(0, 0, 8, 0));
        setTop(head);
        setCenter(picture);
        tools.getChildren()
                .addAll(
                        button("save-stars", "Star list…", () -> save("stars.csv", Inspection::starsCsv)),
                        button("save-map", "Field map…", () -> save("field-map.csv", Inspection::mapCsv)),
                        button("save-solved", "Solved copy…", this::saveSolved),
                        button("copy-place", "Copy place", this::copyPlace),
                        button("keep-stars", "Keep its stars", this::keepStars));
        live.getStyleClass().add("live-number");
        live.setId("live-number");
        live.setWrapText(true);
        live.managedProperty().bind(live.textProperty().isNotEmpty());
        lean.setId("mask-lean");
        lean.getItems().setAll(MaskPattern.Lean.values());
        lean.setValue(MaskPattern.Lean.UNKNOWN);
        lean.setConverter(Words.naming(l -> switch (l) {
            case UNKNOWN -> "leaning bars: not told";
            case APART -> "leaning bars open away from the straight ones";
            case TOGETHER -> "leaning bars close away from the straight ones";
        }));
        lean.setOnAction(e -> showVerdict());
        lean.setVisible(false);
        lean.setManaged(false);
        VBox right = new VBox(8, live, lean, reckoning, map, levels, field, tools);
        right.setPrefWidth(344);
        right.setMinWidth(344);
        VBox.setVgrow(reckoning, Priority.ALWAYS);
        setRight(right);
        BorderPane.setMargin(right, new Insets(0, 0, 0, 8));
        target = new NameField(names, "nudge-target", "bring here: a name or a place");
        target.setPrefWidth(230);
        target.setMinWidth(200);
        target.setTooltip(new Tooltip("An object, a bright star, or right ascension and declination"));
        target.textProperty().addListener((o, was, is) -> nudge());
        finder.setTooltip(new Tooltip(
                "The finder's cross stood on the target while this frame was taken: which way it has to go"));
        finder.setOnAction(e -> nudge());
        nudge.getStyleClass().add("nudge");
        nudge.setId("nudge");
        nudge.setWrapText(true);
        HBox.setHgrow(nudge, Priority.ALWAYS);
        watch.setOnAction(e -> toggleWatch());
        watch.setMinWidth(Region.USE_PREF_SIZE);
        finder.setMinWidth(Region.USE_PREF_SIZE);
        HBox byHand = new HBox(8, target, finder, watch, nudge);
        byHand.setAlignment(Pos.CENTER_LEFT);
        byHand.setPadding(new Insets(8, 0, 4, 0));
        setBottom(new VBox(byHand, said));
        watching.setCycleCount(Animation.INDEFINITE);
        setPadding(new Insets(10, 14, 8, 14));
    }

    private static Button button(String id, String text, Runnable action) {
        Button button = new Button(text);
        button.setId(id);
        button.setOnAction(e -> action.run());
        return button;
    }

    /** Looks at some files: at the first at once, and the others can be stepped through. */
    public void inspect(List<Path> some) {
        files = List.copyOf(some);
        step(0);
    }

    /** Begins to look at a file. */
    public void inspect(Path file) {
        inspect(List.of(file));
    }

    /** More files, as they come into a folder; the newest is looked at. */
    private void add(List<Path> more) {
        List<Path> all = new ArrayList<>(files);
        all.addAll(more);
        files = List.copyOf(all);
        step(files.size() - 1);
    }

    private void step(int index) {
        at = index;
        before.setDisable(at <= 0);
        after.setDisable(at >= files.size() - 1);
        before.setVisible(files.size() > 1);
        after.setVisible(files.size() > 1);
        look(files.get(at));
    }

    /** The answer to an older wish is dropped; nothing of the file before is left under the name of this one. */
    private void look(Path file) {
        maskBefore = shown.flatMap(Inspection::mask);
        shown = Optional.empty();
        picture.view().setLines(List.of());
        title.setText(file.getFileName() + (files.size() > 1 ? Words.format("   %d of %d", at + 1, files.size()) : ""));
        map.clear();
        levels.clear();
        nudge.setText("");
        picture.setWhenEmpty("Measuring…");
        said.setText("Measuring stars and recognising the sky…");
        reckoning.show(ReckoningState.waiting("Measuring.", "Stars first, then the sky."), "");
        field.setText("");
        tools.setDisable(true);
        picture.show(Optional.empty(), Optional.empty());
        work.ask(progress -> Inspection.of(file, shelf.solver(), objects))
                .onlyNewest()
                .failed(this::failed)
                .then(this::show);
    }

    private void show(Inspection next) {
        shown = Optional.of(next);
        said.setText("The file itself is never changed.");
        tools.setDisable(false);
        tools.lookup("#save-solved").setDisable(!(next.solved() instanceof PlateSolution));
        tools.lookup("#copy-place").setDisable(!(next.solved() instanceof PlateSolution));
        tools.lookup("#keep-stars").setDisable(!(next.solved() instanceof PlateSolution));
        showVerdict();
        live.setText(liveWords(next));
        // Pieces of spikes say nothing of the field.
        boolean masked = next.mask().isPresent();
        map.setVisible(!masked);
        map.setManaged(!masked);
        if (!masked) {
            map.show(next.shapes());
        }
        levels.show(next.levels(), next.stars().backgroundAdu());
        field.setText(masked ? "" : next.fieldWords());
        nudge();
        picture.show(Optional.of(next.picture()), Optional.empty());
        if (next.solved() instanceof PlateSolution s) {
            picture.view().setWcs(Optional.of(s.wcs()));
        }
        overlays();
    }

    /** What a mask tells comes first where one is on; else what the sky says. */
    private void showVerdict() {
        shown.ifPresent(i -> {
            boolean masked = i.mask().isPresent();
            lean.setVisible(masked);
            lean.setManaged(masked);
            reckoning.show(masked ? i.maskReckoning(kit.get(), lean.getValue(), maskBefore) : i.reckoning(), "");
            picture.view()
                    .setLines(i.mask().stream()
                            .flatMap(m -> m.stars().stream())
                            .flatMap(s -> s.lines().stream())
                            .map(l -> new double[] {l.x(), l.y(), l.angleDeg()})
                            .toList());
        });
    }

    /** For who turns a ring and looks up: the number that matters, against the last frame and the best. */
    private String liveWords(Inspection i) {
        if (folder.isEmpty()) {
            return "";
        }
        if (i.mask().isPresent()) {
            return Words.format(
                    "%.0f µm off",
                    i.mask()
                            .get()
                            .defocusUm(kit.get().optics(), kit.get().sensor().pixelUm(), lean.getValue()));
        }
        if (i.stars().medianHalfFluxRadiusPx().isEmpty()) {
            return "no stars";
        }
        double size = i.stars().medianHalfFluxRadiusPx().getAsDouble();
        boolean best = size <= bestSize;
        bestSize = Math.min(bestSize, size);
        String against =
                best ? "smallest so far" : Words.format("%+.0f %% from the smallest", 100 * (size / bestSize - 1));
        return Words.format("%.2f px", size) + "\n" + against
                + ever(size, i.frame().header());
    }

    /** Against the best of the kit's own nights, at the frame's temperature where both tell it. */
    private String ever(double size, Header header) {
        OptionalDouble tube = SharpStars.tubeC(header);
        OptionalDouble alike = tube.isEmpty() ? tube : bestKnown.bestAbout(tube.getAsDouble());
        OptionalDouble best = alike.isPresent() ? alike : bestKnown.best();
        if (best.isEmpty()) {
            return "";
        }
        double known = best.getAsDouble();
        return Words.format(
                "\n%s at its best%s %.2f px: %s",
                kit.get().name(),
                alike.isPresent()
                        ? Words.format(" within %.0f °C of these %.0f °C", SharpStars.ALIKE_C, tube.getAsDouble())
                        : "",
                known,
                size <= ALIKE * known ? "as sharp" : Words.format("soft by %.0f %%", 100 * (size / known - 1)));
    }

    /** By hand to a target: what the last frame says. */
    private void nudge() {
        nudge.setText(shown.map(i -> words(i, target.getText().strip())).orElse(""));
    }

    private String words(Inspection i, String name) {
        if (name.isEmpty() || !(i.solved() instanceof PlateSolution s)) {
            return "";
        }
        Optional<SkyNames.Place> place = target.meant();
        if (place.isEmpty()) {
            return "Nothing of that name; right ascension and declination will do too: 01 33 51 +30 39 37.";
        }
        Nudge n =
                Nudge.to(place.get().position(), s, i.frame().width(), i.frame().height());
        String way = finder.isSelected() ? n.finderSentence() : n.sentence() + " " + n.axesSentence();
        String whose = place.get().name().equals(name) ? "" : place.get().name() + ": ";
        return whose + way + place.get().object().map(o -> part(o, i, s)).orElse("");
    }

    /** How much of an object that is cut by the edge is in the frame, against what a frame with it in the middle would hold. */
    private static String part(DeepSkyObject object, Inspection i, PlateSolution s) {
        double long1 = object.longAxisArcmin() / 60;
        if (long1 <= 0) {
            return "";
        }
        double width = i.frame().width() * s.scaleArcsecPerPixel() / 3600;
        double height = i.frame().height() * s.scaleArcsecPerPixel() / 3600;
        Nudge off = Nudge.to(object.position(), s, i.frame().width(), i.frame().height());
        double now = FramingMatch.shareInside(off, width, height, long1);
        double centred = Math.min(1, Math.min(width, height) / long1);
        return now <= 0 || now >= centred - 0.01
                ? ""
                : Words.format(
                        " %.0f %% of its length is in the frame; centred, %.0f %% would be.", 100 * now, 100 * centred);
    }

    /** Each new frame that a camera's own software puts into a folder is looked at as it comes. */
    private void toggleWatch() {
        if (folder.isPresent()) {
            folder = Optional.empty();
            watching.stop();
            watch.setSelected(false);
            watch.setText("Watch a folder…");
            return;
        }
        watch.setSelected(false);
        FilePane.Ask ask = FilePane.Ask.open(FilePane.Kind.FOLDER, "The folder that frames come into");
        FilePane.ask(this, ask, files -> watch(files.get(0)));
    }

    public void watch(Path where) {
        bestSize = Double.POSITIVE_INFINITY;
        bestKnown = SharpStars.NONE;
        String name = kit.get().name();
        listing.ask(progress -> known.apply(name)).failed(said::setText).then(best -> bestKnown = best);
        watch.setSelected(true);
        watch.setText("Watching " + where.getFileName());
        listing.ask(progress -> new FolderWatch(where, FrameFiles::isPicture))
                .failed(why -> said.setText(why + "."))
                .then(begun -> {
                    folder = Optional.of(begun);
                    watching.play();
                });
    }

    /** A folder on a slow disk is asked again only when it has answered. */
    private void look() {
        if (folder.isEmpty() || !listed) {
            return;
        }
        listed = false;
        FolderWatch asked = folder.get();
        listing.ask(progress -> asked.next())
                .failed(why -> {
                    listed = true;
                    said.setText(why + ". It is asked again.");
                })
                .then(came -> {
                    listed = true;
                    if (!came.isEmpty()) {
                        add(came);
                    }
                });
    }

    private void failed(String why) {
        said.setText("Drop another file, or press Esc.");
        picture.setWhenEmpty("No picture: see beside it why.");
        reckoning.show(new ReckoningState("This file cannot be looked at.", why, true, List.of(), "", List.of()), "");
    }

    private void overlays() {
        picture.view().setMarks(rings.isSelected());
        picture.view()
                .setOverlay(
                        shown.flatMap(Inspection::overlay).filter(o -> sky.isSelected() || residuals.isSelected()),
                        sky.isSelected(),
                        residuals.isSelected());
    }

    /** Whether the map of star sizes shows nothing. */
    public boolean isMapEmpty() {
        return map.isEmpty();
    }

    /** What is shown, once it is measured. */
    public Optional<Inspection> shown() {
        return shown;
    }

    private void save(String ending, java.util.function.Function<Inspection, String> text) {
        choose(ending, file -> shown.ifPresent(i -> i.write(file, text.apply(i))));
    }

    private void saveSolved() {
        choose("solved.fits", file -> shown.ifPresent(i -> i.writeSolved(file)));
    }

    private void choose(String ending, Consumer<Path> writer) {
        shown.ifPresent(i -> FilePane.ask(
                this,
                FilePane.Ask.save(
                        "Save",
                        i.file().getFileName().toString().replaceFirst("\\.[A-Za-z]+$", "") + "." + ending,
                        Optional.ofNullable(i.file().toAbsolutePath().getParent())),
                files -> write(files.get(0), writer)));
    }

    private void write(Path file, Consumer<Path> writer) {
        work.ask(progress -> {
                    writer.accept(file);
                    return file;
                })
                .failed(said::setText)
                .then(written -> said.setText("Written: " + written));
    }

    private void copyPlace() {
        shown.map(Inspection::solved)
                .filter(s -> s instanceof PlateSolution)
                .map(s -> (PlateSolution) s)
                .ifPresent(s -> {
                    ClipboardContent text = new ClipboardContent();
                    text.putString(
                            Sexagesimal.text(s.centre().raDeg(), s.centre().decDeg()));
                    Clipboard.getSystemClipboard().setContent(text);
                    said.setText("Copied.");
                });
    }

    /** The frame's stars help to recognise narrower ones from now on. */
    private void keepStars() {
        Inspection i = shown.orElseThrow();
        tools.lookup("#keep-stars").setDisable(true);
        said.setText("Keeping its stars…");
        work.ask(progress -> {
                    int added = shelf.keep((PlateSolution) i.solved(), i.stars(), i.year());
                    shelf.solver().prepare(Progress.NONE);
                    return added;
                })
                .failed(said::setText)
                .then(added -> said.setText(
                        added > 0
                                ? Words.format(
                                        "%,d stars kept: narrower frames of this region are recognised by them.", added)
                                : "All its stars were known."));
    }

    @Override
    public void close() {
        watching.stop();
        work.close();
        listing.close();
    }
}
