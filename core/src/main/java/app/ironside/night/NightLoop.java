package app.ironside.night;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.guide.Guider;
import app.ironside.image.Frame;
import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.function.Supplier;

/** The one loop that pumps what must go on while the night waits: guiding. */
final class NightLoop {
    private static final Duration STEP = Duration.ofSeconds(2);
    private static final Duration BLINK = Duration.ofMillis(50);

    private final NightClock clock;
    private final Optional<Guider> guider;
    private final Conduct conduct;

    NightLoop(NightClock clock, Optional<Guider> guider, Conduct conduct) {
        this.clock = clock;
        this.guider = guider;
        this.conduct = conduct;
    }

    /**
     * An exposure that is over.
     *
     * @param frame empty if it was thrown away
     * @param opened when the shutter opened
     * @param open for how long
     * @param ended the command that ended it before its time
     * @param spoiled what ended it before its time, in words, if no command did
     */
    record Exposed(
            Optional<Frame> frame,
            Instant opened,
            Duration open,
            Optional<NightControl.Order> ended,
            Optional<String> spoiled) {
        /** Where a frame was taken otherwise than it was asked for, what it says of itself counts. */
        private static final Duration SAME_TIME = Duration.ofSeconds(2);

        private static final double SAME_LENGTH = 0.01;

        static Exposed of(
                Frame frame,
                Instant asked,
                Duration length,
                Optional<NightControl.Order> ended,
                Optional<String> spoiled) {
            Instant told = frame.header().start().orElse(asked);
            boolean sameTime = Duration.between(asked, told).abs().compareTo(SAME_TIME) <= 0;
            double seconds = length.toMillis() / 1000.0;
            double own = frame.header().exposureSeconds().orElse(seconds);
            boolean sameLength = Math.abs(own - seconds) <= SAME_LENGTH * seconds;
            return new Exposed(
                    Optional.of(frame),
                    sameTime ? asked : told,
                    sameLength ? length : Duration.ofMillis(Math.round(own * 1000)),
                    ended,
                    spoiled);
        }

        /** Whether it ended before its time. */
        boolean isShort() {
            return ended.isPresent() || spoiled.isPresent();
        }
    }

    /** Looks after an exposure while it goes on. */
    @FunctionalInterface
    interface During {
        /** Asked after each guide exposure; what it says, in words, ends the exposure. */
        Optional<String> spoils() throws InterruptedException;
    }

    /** Exposes with the main camera, guiding meanwhile, until it is over or somebody ends it. */
    Exposed expose(Camera camera, Camera.Exposure exposure) throws InterruptedException {
        return expose(camera, exposure, Optional::empty);
    }

    /** The same, with somebody who may end it. */
    Exposed expose(Camera camera, Camera.Exposure exposure, During during) throws InterruptedException {
        Instant opened = clock.now();
        Duration open = exposure.length();
        Optional<NightControl.Order> ended = Optional.empty();
        Optional<String> spoiled = Optional.empty();
        Operation exposing = camera.start(exposure);
        Instant closes = opened.plus(exposure.length());
        conduct.announce("after this sub", exposing.remaining().orElse(exposure.length()));
        Instant hangs = opened.plus(exposing.limit());
        // A frame that another program takes comes when it comes: until then whoever commands is heard.
        while (exposing.state() == Operation.State.UNDER_WAY
                && (clock.now().isBefore(closes)
                        || exposing.remaining().isEmpty() && clock.now().isBefore(hangs))) {
            conduct.leaveIfAsked(Stage.RUN);
            ended = conduct.control().take(Command.EndSub.class::isInstance);
            if (ended.isPresent() && end(camera, exposing, ended.get())) {
                open = Duration.between(opened, clock.now());
                break;
            }
            ended = Optional.empty();
            spoiled = during.spoils();
            if (spoiled.isPresent() && camera.abilities().stopsEarly()) {
                camera.stop();
                open = Duration.between(opened, clock.now());
                break;
            }
            spoiled = Optional.empty();
            // The last guide exposure ends with the sub: one that reaches beyond would only make the next one wait.
            boolean late = !clock.now().isBefore(closes);
            Duration left = late ? STEP : Duration.between(clock.now(), closes);
            if (!guided(late ? Duration.ofDays(1) : left)) {
                clock.await(shorter(STEP, left));
            }
        }
        if (exposing.await(clock) == Operation.State.ABORTED) {
            if (ended.isEmpty()) {
                throw new DeviceException(
                        camera.name(), "the exposure was broken off", "Look whether another program uses the camera.");
            }
            return new Exposed(Optional.empty(), opened, open, ended, spoiled);
        }
        return Exposed.of(camera.download(), opened, open, ended, spoiled);
    }

    /** A guide exposure with its correction, if something guides and there is time for one. */
    private boolean guided(Duration left) throws InterruptedException {
        if (guider.isEmpty()
                || !guider.get().isGuiding()
                || left.compareTo(guider.get().cycleTime()) < 0) {
            return false;
        }
        guider.get().cycle();
        return true;
    }

    /** Ends the exposure as a person asked; false if this camera cannot. */
    private boolean end(Camera camera, Operation exposing, NightControl.Order order) {
        if (!((Command.EndSub) order.command()).keep()) {
            exposing.abort();
            return true;
        }
        if (camera.abilities().stopsEarly()) {
            camera.stop();
            return true;
        }
        conduct.refuse(order, Stage.RUN, "this camera cannot end an exposure and keep it");
        return false;
    }

    /**
     * Does some work while guiding goes on. Where time stands still meanwhile, in a rehearsal, there is nothing to guide.
     *
     * @throws RuntimeException as the work throws
     */
    <T> T beside(Supplier<T> work) throws InterruptedException {
        if (!clock.runsByItself()) {
            return work.get();
        }
        CompletableFuture<T> answer = new CompletableFuture<>();
        Thread worker = new Thread(
                () -> {
                    try {
                        answer.complete(work.get());
                    } catch (RuntimeException | Error e) {
                        answer.completeExceptionally(e);
                    }
                },
                "measuring");
        worker.setDaemon(true);
        worker.start();
        while (!answer.isDone()) {
            if (!guided(Duration.ofDays(1))) {
                clock.await(BLINK);
            }
        }
        try {
            return answer.get();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof Error error) {
                throw error;
            }
            throw (RuntimeException) e.getCause();
        }
    }

    /** Waits, guiding meanwhile. */
    void aWhile(Duration time) throws InterruptedException {
        waitUntil(clock.now().plus(time));
    }

    /** Waits until a time, guiding meanwhile. */
    void waitUntil(Instant time) throws InterruptedException {
        while (clock.now().isBefore(time)) {
            if (!guided(Duration.ofDays(1))) {
                clock.await(shorter(Duration.ofSeconds(30), Duration.between(clock.now(), time)));
            }
        }
    }

    private static Duration shorter(Duration a, Duration b) {
        return a.compareTo(b) < 0 ? a : b;
    }
}
