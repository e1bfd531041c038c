package app.ironside.night;

import app.ironside.Provenance;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Devices;
import app.ironside.document.ReadyStep;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import app.ironside.journal.Gate;
import app.ironside.journal.Stage;
import app.ironside.journal.StepProven;
import app.ironside.kit.CameraSettings;
import app.ironside.plan.CalibrationPlan;
import app.ironside.plan.NightBudget;
import app.ironside.plan.TargetPlan;
import app.ironside.solve.Coverage;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Brings the devices up one at a time and proves each before the next. */
final class ReadyStage {
    private static final Duration COOLING_LIMIT = Duration.ofMinutes(25);
    private static final double COOLING_WITHIN_C = 0.5;
    private static final int WAITS_FOR_LOST = 5;
    private static final Duration WAIT_FOR_LOST = Duration.ofMinutes(1);

    private static final String CABLES = "cables";

    /** What is not so is told how to put right, and looked at again. */
    private static final int LOOKS = 2;

    private static final int ENOUGH_NIGHTS = 3;

    /** Temperature and reassembly move focus by a few hundredths of the travel, a lost zero by far more. */
    private static final double FOCUS_REACH = 0.25;

    private final NightContext night;
    private final NightRecord record;
    private final Conduct conduct;
    private final MountProof mount;
    private int proven;
    private int steps;

    ReadyStage(NightContext night, Conduct conduct) {
        this.night = night;
        this.conduct = conduct;
        this.record = night.record();
        this.mount = new MountProof(night);
    }

    /** A proof: what was measured, or empty if the device failed it. */
    @FunctionalInterface
    private interface Proof {
        Optional<String> measure() throws InterruptedException;
    }

    /** Returns whether all steps were proven. */
    boolean run(int plannedSubs) throws InterruptedException {
        record.stage(Stage.READY);
        if (night.program().setUp().atOnce()) {
            beginAllAtOnce();
        }
        for (ReadyStep step : night.readyList().steps()) {
            conduct.announce("after this step", Duration.ofSeconds(20));
            conduct.safePoint(Stage.READY);
            if (conduct.isEnding()) {
                break;
            }
            if (step.measured() && !(step.subject().equals(CABLES) && hasStayed(step))) {
                prove(step, proof(step.subject(), plannedSubs));
            } else if (hasStayed(step)) {
                steps++;
                proven++;
            } else {
                prove(step, () -> isSo(step));
            }
        }
        tellOfFieldsWithoutStars();
        return record.gate(
                Gate.atLeast(Stage.READY, proven, steps, "steps"),
                proven == steps
                        ? "All " + steps + " steps are proven."
                        : (steps - proven) + " of " + steps + " steps are not proven: see the list.");
    }

    /** The cooler, which takes longest, works while the rest is proven. What does not answer shows at its own step. */
    private void beginAllAtOnce() {
        try {
            night.devices().connect();
            if (night.kit().sensor().cooled()) {
                night.devices().camera().coolTo(night.program().coolToC());
            }
        } catch (DeviceException e) {
            record.fault(Stage.READY, e);
        }
    }

    /** Told at dusk, and not when the first frame of a target cannot be recognised at midnight. The other targets go on. */
    private void tellOfFieldsWithoutStars() {
        for (TargetPlan target : night.program().targets()) {
            Coverage found = Coverage.of(
                    night.solver().catalogue(),
                    target.position(),
                    night.kit().fieldWidthDeg(),
                    night.kit().fieldHeightDeg(),
                    target.angleDeg().orElse(0.0));
            if (!found.suffices()) {
                record.fault(
                        Stage.READY,
                        String.format(
                                Locale.ROOT,
                                "%s: of the stars in its frame %d are known, too few to recognise it by. Add a deeper table of stars, or"
                                        + " keep those of a wider picture.%s",
                                target.name(),
                                found.stars(),
                                night.provenance().isReal() ? "" : " This rehearsal goes by its own sky."));
            }
        }
    }

    private Proof proof(String subject, int plannedSubs) {
        Devices devices = night.devices();
        return switch (subject) {
            case "disk" -> () -> freeSpace(plannedSubs);
            case "supply" -> this::supplyHolds;
            case "home" -> mount::home;
            case "mount" -> mount::moves;
            case CABLES -> () -> new AxisSweep(night, conduct).run();
            case "camera" -> () -> frame(devices.camera(), true);
            case "guide camera" -> () -> frame(guideCamera(), false);
            case "focuser" -> this::focuserMoves;
            case "filter wheel" -> this::wheelTurns;
            case "flat panel" -> () -> {
                devices.panel().open().await(night.clock());
                return Optional.of("open");
            };
            case "heaters" -> this::heatersDraw;
            case "cooler" -> this::cools;
            default -> throw new IllegalStateException("no proof for the step " + subject);
        };
    }

    private void prove(ReadyStep step, Proof proof) throws InterruptedException {
        String device = step.subject();
        String what = step.what();
        steps++;
        record.doing(Stage.READY, device + ": " + what, Duration.ofSeconds(20));
        Optional<String> measured = measured(proof);
        proven += measured.isPresent() ? 1 : 0;
        record.step(device, what, measured.orElse(""), measured.isPresent());
    }

    /** What the proof gives. A device whose connection is lost is waited for: at Ready somebody is there to look at its cable. */
    private Optional<String> measured(Proof proof) throws InterruptedException {
        for (int waits = 0; ; waits++) {
            try {
                return proof.measure();
            } catch (DeviceException e) {
                record.fault(Stage.READY, e);
            }
            if (waits == WAITS_FOR_LOST || night.devices().lost().isEmpty() || conduct.isEnding()) {
                return Optional.empty();
            }
            conduct.waitUntil(night.clock().now().plus(WAIT_FOR_LOST), () -> {
                conduct.safePoint(Stage.READY);
                return !conduct.isEnding();
            });
            night.takeBackLost(Stage.READY);
        }
    }

    /** After a stop of the night, what hands have set up and nothing has moved since still stands; devices are proven anew. */
    private boolean hasStayed(ReadyStep step) {
        return record.state().all(StepProven.class).stream()
                .anyMatch(told -> told.proven()
                        && told.subject().equals(step.subject())
                        && told.step().equals(step.what()));
    }

    private boolean looked(ReadyStep step) throws InterruptedException {
        return step.subject().equals(PolarStage.POLE_STAR)
                        && night.program().setUp().polarBy().byReticle()
                ? night.devices().hands().alignByReticle(step.question())
                : night.devices().hands().isSo(step.question());
    }

    private Optional<String> isSo(ReadyStep step) throws InterruptedException {
        for (int look = 1; look <= LOOKS; look++) {
            if (looked(step)) {
                return Optional.of(look == 1 ? "confirmed" : "put right, then confirmed");
            }
            int left = LOOKS - look;
            step.remedy()
                    .ifPresent(remedy -> record.fault(
                            Stage.READY, step.subject() + ": " + remedy + (left > 0 ? " Then look again." : "")));
        }
        return Optional.empty();
    }

    private Optional<String> supplyHolds() {
        double peak = night.kit().equipment().peakWatts();
        double rated = night.kit().equipment().supply().orElseThrow().watts();
        String now = night.devices()
                .power()
                .map(p -> String.format(Locale.ROOT, "%.1f V, %.0f W now, ", p.volts(), p.watts()))
                .orElse("");
        if (peak > rated) {
            record.fault(
                    Stage.READY,
                    String.format(
                            Locale.ROOT,
                            "The kit draws up to %.0f W and the supply gives %.0f W: use a larger one, or feed a part separately.",
                            peak,
                            rated));
            return Optional.empty();
        }
        if (peak > NightBudget.PEAK_RESERVE * rated) {
            record.fault(
                    Stage.READY,
                    String.format(
                            Locale.ROOT,
                            "The kit draws up to %.0f W, more than four fifths of the supply's %.0f W: for hours a larger one is safer.",
                            peak,
                            rated));
        }
        return Optional.of(String.format(Locale.ROOT, "%speak %.0f of %.0f W", now, peak, rated));
    }

    private Optional<String> heatersDraw() {
        return night.devices().power().flatMap(p -> {
            p.heat(true);
            double watts = p.heaterWatts();
            return watts > 0.5 ? Optional.of(String.format(Locale.ROOT, "%.0f W", watts)) : Optional.empty();
        });
    }

    private Optional<String> wheelTurns() throws InterruptedException {
        var wheel = night.devices().wheel();
        wheel.select(0).await(night.clock());
        return wheel.slot() == 0 ? Optional.of(night.kit().filters().get(0).name()) : Optional.empty();
    }

    private Optional<String> freeSpace(int plannedSubs) {
        long frameBytes = (long) NightBudget.frameBytes(night.kit());
        long subs = night.wholeFramesPerLeg()
                .map(k -> Math.min(plannedSubs, 6L * k))
                .orElse((long) plannedSubs);
        long frames = subs + CalibrationPlan.of(night.program()).frames() + NightBudget.DERIVED_FRAMES;
        long needed = frames * frameBytes;
        if (night.archive().freeBytes().isEmpty()) {
            return Optional.of("nothing is written");
        }
        long free = night.archive().freeBytes().getAsLong();
        String measured = String.format(Locale.ROOT, "%.1f GB free, %.1f GB needed", free / 1e9, needed / 1e9);
        if (free >= needed) {
            return Optional.of(measured);
        }
        record.fault(Stage.READY, "The disk has " + measured + ": free some space before the night fills it.");
        return Optional.empty();
    }

    private Camera guideCamera() {
        return night.devices()
                .guideCamera()
                .orElseThrow(() -> new DeviceException(
                        "guide camera",
                        "there is none",
                        "Connect it at Site and kit, or choose a kit without a guider."));
    }

    private Optional<String> frame(Camera camera, boolean main) throws InterruptedException {
        CameraSettings settings = night.kit().equipment().camera();
        if (main && !isSet(camera, settings)) {
            return Optional.empty();
        }
        Frame frame = camera.expose(night.clock(), firstExposure(main));
        record.frame(Stage.READY, main ? "First frame" : "First guide frame", frame, Optional.empty());
        if (main && !hasSizeOfKit(frame)) {
            return Optional.empty();
        }
        Statistics.Spread spread = night.gauge().level(frame);
        // Frames that others take may be of a bright dusk: that one arrives is the proof.
        return spread.sigma() > 0 || night.provenance() == Provenance.BY_FOLDER
                ? Optional.of(String.format(
                        Locale.ROOT,
                        "%d x %d, level %.0f ADU%s",
                        frame.width(),
                        frame.height(),
                        spread.centre(),
                        main && !settings.words().isEmpty() ? ", " + settings.words() : ""))
                : Optional.empty();
    }

    /** Sets the camera; a gain that it does not take from outside is set by hand. */
    private boolean isSet(Camera camera, CameraSettings settings) throws InterruptedException {
        if (settings.gain().isPresent() && camera.abilities().gain().isEmpty()) {
            camera.use(new CameraSettings(Optional.empty(), settings.offset(), settings.readoutMode()));
            return night.devices()
                    .hands()
                    .isSo("camera: it is set to gain " + settings.gain().get());
        }
        camera.use(settings);
        return true;
    }

    /** Another camera than the kit's, a crop or a binning would be believed all night: in the field, the scale, the darks. */
    private boolean hasSizeOfKit(Frame frame) {
        int width = night.kit().sensor().widthPx();
        int height = night.kit().sensor().heightPx();
        boolean same = frame.width() == width && frame.height() == height
                || night.provenance() == Provenance.BY_FOLDER && frame.width() == height && frame.height() == width;
        if (!same) {
            record.fault(
                    Stage.READY,
                    String.format(
                            Locale.ROOT,
                            "The camera gives %d x %d pixels and the kit says %d x %d: another camera is on the telescope, or it bins or"
                                    + " crops. Correct the kit, or the camera's settings.",
                            frame.width(),
                            frame.height(),
                            width,
                            height));
        }
        return same;
    }

    /** Where another program takes the frames, whatever it takes first will do. */
    private Camera.Exposure firstExposure(boolean main) {
        if (night.provenance() == Provenance.BY_FOLDER) {
            return Camera.Exposure.light(Duration.ofSeconds(1));
        }
        return main
                ? Camera.Exposure.light(Duration.ZERO).ofKind(Camera.FrameKind.BIAS)
                : Camera.Exposure.light(Duration.ofMillis(5));
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
        return moved && whereItUsedToBe(at) ? Optional.of("at " + at + " of " + focuser.maxSteps()) : Optional.empty();
    }

    /** A focuser that lost its zero stands far from where it focused on other nights. */
    private boolean whereItUsedToBe(int at) {
        List<Double> earlier = night.earlier().focusSteps();
        if (earlier.size() < ENOUGH_NIGHTS) {
            return true;
        }
        double middle = earlier.stream().sorted().toList().get(earlier.size() / 2);
        double reach = FOCUS_REACH * night.kit().focuser().maxSteps();
        if (Math.abs(at - middle) <= reach) {
            return true;
        }
        record.fault(
                Stage.READY,
                String.format(
                        Locale.ROOT,
                        "The focuser says %d, and other nights it focused near %.0f: it may have lost its zero. Run it to both ends.",
                        at,
                        middle));
        return false;
    }

    private Optional<String> cools() throws InterruptedException {
        if (!night.kit().sensor().cooled()) {
            return Optional.of("no cooler");
        }
        Camera camera = night.devices().camera();
        if (!camera.abilities().cools()) {
            double now = camera.sensorTemperatureC();
            return Optional.of((Double.isNaN(now) ? "" : String.format(Locale.ROOT, "%.1f °C, ", now))
                    + "held by the camera's own program");
        }
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
        String power = camera.coolerPower().isPresent()
                ? String.format(
                        Locale.ROOT,
                        " at %.0f %% of its power",
                        100 * camera.coolerPower().getAsDouble())
                : "";
        return Optional.of(String.format(Locale.ROOT, "%.1f °C%s", camera.sensorTemperatureC(), power));
    }
}
