package app.ironside.desk.station;

import app.ironside.Provenance;
import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.PlotStates;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.picture.PicturePane;
import app.ironside.desk.picture.SkyOverlay;
import app.ironside.desk.reckon.Intent;
import app.ironside.document.NightFile;
import app.ironside.image.Frame;
import app.ironside.journal.CalibrationTaken;
import app.ironside.journal.Command;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.MasterMade;
import app.ironside.journal.NightEvent;
import app.ironside.journal.StackMade;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.Profiles;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.control.ListView;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The benches of all stations. */
public final class Benches implements AutoCloseable {
    private static final double GAP = 8;

    private final Map<Stage, Bench> benches = new EnumMap<>(Stage.class);
    private final ReadyBench ready;
    private final PolarBench polar;
    private final ModelPane model;
    private final ThreeStarsPane stars;
    private final FocusBench focus = new FocusBench();
    private final GuideBench guide;

    /**
     * @param running the night that is told what hands did
     * @param onEvent told when an event is picked from a list
     * @param nights of the logbook
     * @param intents takes what a bench asks for
     * @param command is given to the night that runs
     */
    public Benches(
            Wiring wiring,
            Logbook logbook,
            Profiles profiles,
            Supplier<NightModel> running,
            Consumer<NightEvent> onEvent,
            Bench plan,
            Bench nights,
            Consumer<Intent> intents,
            Consumer<Command> command) {
        guide = new GuideBench(intents, command);
        ready = new ReadyBench(running, profiles, logbook);
        polar = new PolarBench(wiring.stars());
        model = new ModelPane(wiring, Wiring.models(logbook, Provenance.REHEARSED));
        stars = new ThreeStarsPane(wiring::stars);
        benches.put(Stage.PLAN, plan);
        benches.put(Stage.READY, ready);
        benches.put(Stage.POLAR, polar);
        benches.put(Stage.POINT, new PointBench(wiring.objects(), model, stars));
        benches.put(Stage.FOCUS, focus);
        benches.put(Stage.GUIDE, guide);
        benches.put(Stage.RUN, new RunBench(onEvent));
        benches.put(
                Stage.CALIBRATE,
                new ListedBench(
                        "Flats, bias and darks follow the last light. Frames from elsewhere: Develop (V).",
                        onEvent,
                        MasterMade.class,
                        CalibrationTaken.class));
        benches.put(
                Stage.STACK,
                new ListedBench(
                        "The stacks follow the calibration. Frames from elsewhere: Develop (V).",
                        onEvent,
                        StackMade.class));
        benches.put(Stage.LOGBOOK, nights);
    }

    /** The bench of a station. */
    public Bench of(Stage station) {
        return benches.get(station);
    }

    /**
     * The night that is on the desk.
     *
     * @param folder where its frames lie; empty before it has begun
     */
    public void setFile(NightFile night, Optional<Path> folder) {
        ready.setFile(night);
        polar.setFile(night);
        model.setFile(night);
        stars.setFile(night);
        focus.setFile(night, folder);
        guide.setFile(night);
    }

    /** Whether the person confirms what a rehearsal's hands would. */
    public boolean isOwnHands() {
        return ready.isOwnHands();
    }

    @Override
    public void close() {
        ready.close();
        model.close();
        guide.close();
        focus.close();
    }

    private static <T extends Node> T grow(T node) {
        HBox.setHgrow(node, Priority.ALWAYS);
        VBox.setVgrow(node, Priority.ALWAYS);
        return node;
    }

    /** Two panes that share a width equally, whatever they hold. */
    private static HBox halves(Region a, Region b) {
        for (Region r : new Region[] {a, b}) {
            r.setPrefWidth(100);
            grow(r);
        }
        return new HBox(GAP, a, b);
    }

    private static final class PointBench implements Bench {
        private final PicturePane picture =
                new PicturePane("The first frame of the target will come here.").withLevels();
        private final Plot approach = new Plot();
        private final StackPane middle = new StackPane();
        private final VBox box = new VBox(GAP);
        private final DeepSkyCatalogue objects;
        private final ThreeStarsPane stars;
        private Instant shown = Instant.EPOCH;
        private Optional<FrameSolved> overlaid = Optional.empty();

        PointBench(DeepSkyCatalogue objects, ModelPane model, ThreeStarsPane stars) {
            this.objects = objects;
            this.stars = stars;
            approach.setPrefHeight(150);
            approach.setMinHeight(150);
            VBox frame = new VBox(GAP, grow(picture), approach);
            ToggleButton frames = new ToggleButton("Frame");
            ToggleButton models = new ToggleButton("Model of the mount");
            ToggleButton three = new ToggleButton("Three stars, by hand");
            three.setId("point-stars");
            ToggleGroup group = new ToggleGroup();
            three.setToggleGroup(group);
            three.setOnAction(e -> {
                three.setSelected(true);
                middle.getChildren().setAll(stars);
                stars.show(shown);
            });
            frames.setToggleGroup(group);
            models.setToggleGroup(group);
            frames.setSelected(true);
            models.setId("point-model");
            frames.setId("point-frame");
            frames.setOnAction(e -> {
                frames.setSelected(true);
                middle.getChildren().setAll(frame);
            });
            models.setOnAction(e -> {
                models.setSelected(true);
                middle.getChildren().setAll(model);
            });
            middle.getChildren().setAll(frame);
            box.getChildren().addAll(new HBox(3, frames, models, three), grow(middle));
        }

        @Override
        public Node node() {
            return box;
        }

        @Override
        public void show(Look look) {
            approach.show(PlotStates.approach(look.moment()));
            shown = look.moment().time();
            stars.show(shown);
            Optional<FrameSolved> solve = look.moment().evidence(look.chosen(), FrameSolved.class);
            picture.show(look.shown(), solve.map(FrameSolved::wcs));
            look.shown().ifPresent(p -> overlay(solve, p.shown().frame()));
        }

        /** The sky over the frame that was solved, once for each. */
        private void overlay(Optional<FrameSolved> solve, Frame frame) {
            if (!solve.equals(overlaid)) {
                overlaid = solve;
                picture.view()
                        .setOverlay(
                                solve.map(
                                        s -> SkyOverlay.of(s.wcs(), frame.width(), frame.height(), objects, List.of())),
                                true,
                                false);
            }
        }
    }

    private static final class RunBench implements Bench {
        private static final String NONE_YET = "The first sub will come here.";

        private final PicturePane picture = new PicturePane(NONE_YET).withLevels();
        private final RunGlancePane glance;
        private final VBox box;

        RunBench(Consumer<NightEvent> onEvent) {
            glance = new RunGlancePane(onEvent);
            box = new VBox(GAP, glance, grow(picture));
        }

        @Override
        public Node node() {
            return box;
        }

        @Override
        public void show(Look look) {
            glance.show(look.glance());
            picture.setWhenEmpty(look.moment().night().subs().isEmpty() ? NONE_YET : "Making the picture…");
            picture.show(
                    look.shown(),
                    look.moment().evidence(look.chosen(), SubTaken.class).flatMap(SubTaken::wcs));
        }
    }

    /** A picture with the list of events whose pictures can be had. */
    private static final class ListedBench implements Bench {
        private final PicturePane picture;
        private final ListView<NightEvent> list = eventList();
        private final List<Class<? extends NightEvent>> kinds;
        private final VBox box;
        private boolean filling;

        @SafeVarargs
        ListedBench(String empty, Consumer<NightEvent> onEvent, Class<? extends NightEvent>... kinds) {
            this.kinds = List.of(kinds);
            picture = new PicturePane(empty);
            list.setPrefHeight(190);
            list.setMinHeight(120);
            list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> {
                if (is != null && !filling) {
                    onEvent.accept(is);
                }
            });
            box = new VBox(GAP, grow(picture), list);
        }

        @Override
        public Node node() {
            return box;
        }

        @Override
        public void show(Look look) {
            List<NightEvent> events = new ArrayList<>();
            kinds.forEach(kind -> events.addAll(look.moment().night().all(kind)));
            if (!list.getItems().equals(events)) {
                filling = true;
                list.getItems().setAll(events);
                look.chosen().ifPresent(e -> list.getSelectionModel().select(e));
                filling = false;
            }
            Optional<StackMade> stack = look.moment().evidence(look.chosen(), StackMade.class);
            picture.show(
                    look.shown(), kinds.contains(StackMade.class) ? stack.flatMap(StackMade::wcs) : Optional.empty());
        }
    }

    /** A list that shows each event as its sentence. */
    static ListView<NightEvent> eventList() {
        ListView<NightEvent> list = new ListView<>();
        list.setAccessibleText("what happened here");
        SentenceCell.of(list, NightEvent::text);
        return list;
    }
}
