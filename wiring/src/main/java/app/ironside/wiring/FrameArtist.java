package app.ironside.wiring;

import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Devices;
import app.ironside.device.Mount;
import app.ironside.document.NightFile;
import app.ironside.image.Frame;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.NightEvent;
import app.ironside.journal.SubTaken;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.NightTimes;
import app.ironside.sky.StarCatalogue;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * Draws frames of a rehearsal again whose files are not on the disk, from what its journal tells of them: the same sky, clouds, filter,
 * length and side of the pier, in focus and well guided. They are likenesses, and to be called so.
 */
public final class FrameArtist {
    /** For the mount to arrive and the wheel to turn. */
    private static final Duration BEFORE = Duration.ofMinutes(4);

    private static final Duration SOLVING = Duration.ofSeconds(8);
    private static final int SOLVING_BINNING = 2;

    private final StarCatalogue stars;
    private final DeepSkyCatalogue objects;
    private final Workers workers;

    FrameArtist(StarCatalogue stars, DeepSkyCatalogue objects, Workers workers) {
        this.stars = stars;
        this.objects = objects;
        this.workers = workers;
    }

    /** What is to be drawn. */
    private record Scene(
            Instant opened, Equatorial place, Mount.PierSide side, String filter, Camera.Exposure exposure) {}

    /**
     * The frame of an event; empty for events whose picture cannot be drawn from what is told of them.
     *
     * @throws InterruptedException never; the clock is a virtual one
     */
    public Optional<Frame> draw(NightFile night, NightEvent event) throws InterruptedException {
        Optional<Scene> scene = scene(night, event);
        return scene.isPresent() ? Optional.of(drawn(night, scene.get())) : Optional.empty();
    }

    private Optional<Scene> scene(NightFile night, NightEvent event) {
        if (event instanceof SubTaken sub) {
            Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(1000 * sub.seconds())));
            Optional<Equatorial> planned = night.program().targets().stream()
                    .filter(t -> t.name().equals(sub.target()))
                    .map(t -> t.position())
                    .findFirst();
            return sub.wcs()
                    .map(w -> w.toSky(
                            (night.kit().sensor().widthPx() + 1) / 2.0,
                            (night.kit().sensor().heightPx() + 1) / 2.0))
                    .or(() -> planned)
                    .map(place -> new Scene(
                            sub.exposed().from(),
                            place,
                            sub.circumstances().pierSide().orElse(Mount.PierSide.WEST),
                            sub.filter(),
                            exposure));
        }
        if (event instanceof FrameSolved solved) {
            return Optional.of(solving(night, solved.time(), solved.centre()));
        }
        if (event instanceof AxisMeasured axis && !axis.sights().isEmpty()) {
            return axis.sights()
                    .get(axis.sights().size() - 1)
                    .place()
                    .map(p -> solving(night, axis.time(), p.centre()));
        }
        return Optional.empty();
    }

    private static Scene solving(NightFile night, Instant told, Equatorial place) {
        return new Scene(
                told.minus(SOLVING),
                place,
                Mount.PierSide.WEST,
                night.kit().filters().get(0).name(),
                Camera.Exposure.light(SOLVING).withBinning(SOLVING_BINNING));
    }

    private Frame drawn(NightFile night, Scene scene) throws InterruptedException {
        SteppedClock clock = new SteppedClock(scene.opened().minus(BEFORE));
        NightTimes times = NightTimes.of(night.site(), night.program().date());
        SimulatedObservatory observatory = new SimulatedObservatory(
                night.site(),
                night.kit(),
                night.observatoryOver(SimSettings.DEFAULT, SimSettings.class).withPerfectMount(),
                new SkySource(stars, objects),
                clock,
                times.sunset().orElse(times.night().from()),
                workers);
        Devices devices = observatory.devices();
        Mount mount = devices.mount();
        mount.unpark();
        devices.wheel().select(night.kit().filterSlot(scene.filter())).await(clock);
        mount.slewAndWait(clock, scene.place(), scene.side());
        mount.sync(observatory.looksAt());
        mount.slewAndWait(clock, scene.place(), scene.side());
        devices.focuser().moveAndWait(clock, (int) Math.round(observatory.bestFocusSteps()));
        Duration left = Duration.between(clock.now(), scene.opened());
        clock.await(left.isNegative() ? Duration.ZERO : left);
        return devices.camera().expose(clock, scene.exposure());
    }
}
