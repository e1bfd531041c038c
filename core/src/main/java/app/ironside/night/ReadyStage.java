package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.device.Camera;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import app.ironside.sky.Equatorial;
import java.io.File;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;

/** Brings the devices up one at a time and proves each before the next. */
final class ReadyStage {
    private static final Duration COOLING_LIMIT = Duration.ofMinutes(25);
    private static final double COOLING_WITHIN_C = 0.5;
    private static final double PROOF_TURN_DEG = 4;

    private final NightContext night;
    private final NightRecord record;
    private int proven;
    private int steps;

    ReadyStage(NightContext night) {
        this.night = night;
        this.record = night.record();
    }

    /** A proof: what was measured, or empty if the device failed it. */
    @FunctionalInterface
    private interface Proof {
        Optional<String> measure() throws InterruptedException;
    }

    /** Returns whether all steps were proven. */
    boolean run(int plannedSubs) throws InterruptedException {
        record.stage(Stage.READY);
        Devices devices = night.devices();
        NightClock clock = night.clock();
        prove("disk", "room for the plan", () -> freeSpace(plannedSubs));
        prove("mount", "a commanded turn happens", this::mountMoves);
        prove("camera", "a frame arrives", () -> frame(devices.camera(), true));
        prove("guide camera", "a frame arrives", () -> frame(devices.guideCamera(), false));
        prove("focuser", "it answers and moves", this::focuserMoves);
        prove("filter wheel", "the filter asked for is in place", () -> {
            devices.wheel().select(0);
            clock.await(devices.wheel().remaining());
            return devices.wheel().slot() == 0
                    ? Optional.of(night.kit().filters().get(0).name())
                    : Optional.empty();
        });
        prove("flat panel", "it opens", () -> {
            devices.panel().open();
            return Optional.of("open");
        });
        prove("cooler", "the set point is reached and held", this::cools);
        return record.gate(new Gate(
                Stage.READY,
                proven,
                steps,
                "steps",
                false,
                proven == steps
                        ? "All " + steps + " steps are proven."
                        : (steps - proven) + " of " + steps + " steps are not proven: see the list."));
    }

    private void prove(String device, String what, Proof proof) throws InterruptedException {
        steps++;
        record.doing(Stage.READY, device + ": " + what, Duration.ofSeconds(20));
        Optional<String> measured;
        try {
            measured = proof.measure();
        } catch (app.ironside.device.DeviceException e) {
            record.fault(Stage.READY, e.getMessage());
            measured = Optional.empty();
        }
        proven += measured.isPresent() ? 1 : 0;
        record.event(
                EventKind.DEVICE,
                device + ": " + what + measured.map(m -> ", " + m + ".").orElse(": not proven."),
                facts("device", device, "step", what, "measured", measured.orElse(""), "proven", measured.isPresent()));
    }

    private Optional<String> freeSpace(int plannedSubs) {
        long frameBytes =
                2L * night.kit().sensor().widthPx() * night.kit().sensor().heightPx();
        long subs = night.program()
                .fullFramesPerLeg()
                .map(k -> Math.min(plannedSubs, 6L * k))
                .orElse((long) plannedSubs);
        int flats = night.program().calibrations().flatsPerFilter()
                * night.kit().filters().size();
        long frames = subs
                + flats
                + night.program().calibrations().darks()
                + night.program().calibrations().bias();
        // Stacks and masters are floats: allow a dozen of them.
        long needed = frames * frameBytes + 24 * frameBytes;
        File root = night.archive().root().toFile();
        long free = root.getUsableSpace();
        String measured = String.format(Locale.ROOT, "%.1f GB free, %.1f GB needed", free / 1e9, needed / 1e9);
        if (free >= needed) {
            return Optional.of(measured);
        }
        record.fault(Stage.READY, "The disk has " + measured + ": free some space before the night fills it.");
        return Optional.empty();
    }

    private Optional<String> mountMoves() throws InterruptedException {
        var mount = night.devices().mount();
        mount.unpark();
        Equatorial before = mount.pointing();
        mount.turnRightAscensionAxis(PROOF_TURN_DEG);
        night.clock().await(mount.remaining());
        double moved = before.separationDeg(mount.pointing());
        mount.turnRightAscensionAxis(-PROOF_TURN_DEG);
        night.clock().await(mount.remaining());
        return moved > 0.05 ? Optional.of(String.format(Locale.ROOT, "%.1f° seen", moved)) : Optional.empty();
    }

    private Optional<String> frame(Camera camera, boolean main) throws InterruptedException {
        Frame frame = camera.expose(
                night.clock(),
                Camera.Exposure.light(Duration.ofMillis(main ? 0 : 5))
                        .ofKind(main ? Camera.FrameKind.BIAS : Camera.FrameKind.LIGHT));
        record.frame(Stage.READY, main ? "First frame" : "First guide frame", frame, Optional.empty());
        Statistics.Spread spread = Statistics.robust(Statistics.sample(frame, 20_000));
        return spread.sigma() > 0
                ? Optional.of(String.format(
                        Locale.ROOT, "%d x %d, level %.0f ADU", frame.width(), frame.height(), spread.centre()))
                : Optional.empty();
    }

    private Optional<String> focuserMoves() throws InterruptedException {
        var focuser = night.devices().focuser();
        int at = focuser.positionSteps();
        if (at <= 0 || at >= focuser.maxSteps()) {
            return Optional.empty();
        }
        int aside = at + 10 <= focuser.maxSteps() ? at + 10 : at - 10;
        focuser.moveAndWait(night.clock(), aside);
        boolean moved = focuser.positionSteps() == aside;
        focuser.moveAndWait(night.clock(), at);
        return moved ? Optional.of("at " + at + " of " + focuser.maxSteps()) : Optional.empty();
    }

    private Optional<String> cools() throws InterruptedException {
        if (!night.kit().sensor().cooled()) {
            return Optional.of("no cooler");
        }
        Camera camera = night.devices().camera();
        double wanted = night.program().coolToC();
        camera.coolTo(wanted);
        Instant limit = night.clock().now().plus(COOLING_LIMIT);
        while (Math.abs(camera.sensorTemperatureC() - wanted) > COOLING_WITHIN_C) {
            if (night.clock().now().isAfter(limit)) {
                record.fault(
                        Stage.READY,
                        String.format(
                                Locale.ROOT,
                                "The cooler stands at %.1f °C and should be at %.0f: choose a warmer set point.",
                                camera.sensorTemperatureC(),
                                wanted));
                return Optional.empty();
            }
            night.clock().await(Duration.ofSeconds(10));
        }
        return Optional.of(String.format(Locale.ROOT, "%.1f °C", camera.sensorTemperatureC()));
    }
}
