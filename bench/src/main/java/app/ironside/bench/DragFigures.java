package app.ironside.bench;

import app.ironside.Workers;
import app.ironside.desk.Main;
import app.ironside.desk.night.Moment;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.Ribbon;
import app.ironside.desk.plan.PlanBench;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.plan.PlanReckoner;
import app.ironside.desk.plan.PlanStart;
import app.ironside.desk.reckon.ReckoningView;
import app.ironside.desk.session.Nights;
import app.ironside.document.NightFile;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.Profiles;
import app.ironside.sky.Interval;
import app.ironside.wiring.Wiring;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import javafx.animation.AnimationTimer;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.layout.BorderPane;
import javafx.stage.Stage;

/**
 * How long the interface thread is held, frame by frame, while the end of a block is dragged on the ribbon of a plan of ten targets,
 * against the 32 ms of two frames of a usual screen; and how many of the places dragged over were drawn. From the project's root.
 */
public final class DragFigures {
    private static final double ALLOWED_MILLIS = 32;
    private static final int FRAMES = 600;
    private static final int WARM_UP = 120;

    /** High in the evening, at midnight and before dawn of the night of 14 November at 44° north. */
    private static final String[] TARGETS = {
        "NGC 6946", "NGC 7331", "NGC 281", "M 33", "NGC 891", "NGC 925", "NGC 1023", "IC 342", "NGC 2403", "NGC 2683"
    };

    private DragFigures() {}

    public static void main(String[] arguments) throws IOException, InterruptedException {
        Main.headless();
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        PlanStart start = PlanStart.of(wiring, NightFile.parse(tenTargets(), "ten targets", wiring.objects()));
        Path folder = Files.createTempDirectory("drag-figures");
        CountDownLatch ended = new CountDownLatch(1);
        Platform.startup(() -> new Desk(wiring, folder, start, ended).open());
        ended.await();
        System.exit(0);
    }

    private static String tenTargets() throws IOException {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(Files.readString(Path.of("examples", "colle-sorbo.json")));
        ArrayNode targets = ((ObjectNode) night.get("program")).putArray("targets");
        for (int i = 0; i < TARGETS.length; i++) {
            ObjectNode target = targets.addObject().put("name", TARGETS[i]).put("subSeconds", 180);
            target.putArray("filters").add("L");
            target.put("from", time(i)).put("until", time(i + 1));
        }
        return json.writeValueAsString(night);
    }

    private static String time(int hour) {
        return String.format("%02d:50:00", (18 + hour) % 24);
    }

    /** The views that follow a change of the plan, as the desk has them follow. */
    private static final class Desk {
        private final PlanDesk plan;
        private final PlanBench bench;
        private final PlanReckoner reckoner;
        private final ReckoningView reckoning;
        private final Ribbon ribbon = new Ribbon();
        private final Moment nothingYet;
        private final CountDownLatch ended;
        private final List<Double> frames = new ArrayList<>();
        private int drawn;

        Desk(Wiring wiring, Path folder, PlanStart start, CountDownLatch ended) {
            this.ended = ended;
            plan = new PlanDesk(
                    wiring,
                    new Profiles(folder),
                    folder,
                    Nights.record(Logbook.open(folder)),
                    this::changed,
                    new PlanDesk.Runner() {
                        @Override
                        public void rehearse(NightFile night) {}

                        @Override
                        public void begin(NightFile night) {}
                    });
            bench = new PlanBench(plan);
            reckoner = new PlanReckoner(plan);
            reckoning = new ReckoningView(plan::obey);
            nothingYet = new NightModel(() -> {}).at(Instant.parse("2026-11-14T16:00:00Z"), true);
            plan.open(start);
        }

        private void changed() {
            if (plan.isDrawn()) {
                drawn++;
                ribbon.show(plan.ribbon(), nothingYet, List.of(), Optional.empty());
                bench.refresh(plan.budget());
                reckoning.show(reckoner.of(plan.budget(), bench.filter()), "");
            }
        }

        void open() {
            BorderPane pane = new BorderPane(bench.node());
            pane.setTop(ribbon);
            pane.setRight(reckoning);
            Stage stage = new Stage();
            stage.setScene(new Scene(pane, 1280, 800));
            stage.show();
            Interval block = plan.draft().plan().blocks().get(3).span();
            new AnimationTimer() {
                private int frame;
                private long before;

                @Override
                public void handle(long now) {
                    if (before > 0 && frame > WARM_UP) {
                        frames.add((System.nanoTime() - before) / 1e6);
                    }
                    if (frame == WARM_UP) {
                        drawn = 0;
                    }
                    if (frame++ == FRAMES) {
                        stop();
                        tell();
                        return;
                    }
                    // Back and forth by an hour, a minute each frame.
                    int minutes = Math.abs(frame % 120 - 60);
                    plan.blocks()
                            .preview(
                                    3,
                                    new Interval(block.from(), block.until().minus(Duration.ofMinutes(minutes / 2))));
                    before = System.nanoTime();
                }
            }.start();
        }

        private void tell() {
            double[] sorted = frames.stream().mapToDouble(d -> d).sorted().toArray();
            double worst = sorted[sorted.length - 1];
            System.out.printf(
                    "plan of %d blocks, %d frames of a drag: median %.1f ms, 99 %% %.1f ms, worst %.1f ms, which is %.2f of the %.0f ms"
                            + " allowed; %d places drawn%n",
                    plan.draft().plan().blocks().size(),
                    sorted.length,
                    sorted[sorted.length / 2],
                    sorted[(int) (0.99 * sorted.length)],
                    worst,
                    worst / ALLOWED_MILLIS,
                    ALLOWED_MILLIS,
                    drawn);
            System.out.println("slow frames: "
                    + Arrays.stream(sorted).filter(d -> d > ALLOWED_MILLIS).count());
            plan.close();
            ended.countDown();
        }
    }
}
