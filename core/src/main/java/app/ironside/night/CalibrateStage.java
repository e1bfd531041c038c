package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.calibrate.FlatExposure;
import app.ironside.calibrate.MasterBuilder;
import app.ironside.calibrate.MasterKind;
import app.ironside.calibrate.MasterPixels;
import app.ironside.calibrate.MasterVerdict;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.journal.CalibrationTaken;
import app.ironside.journal.Gate;
import app.ironside.journal.MasterMade;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.plan.CalibrationPlan;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** Takes the calibration frames that the night's lights need, at their settings, and makes the masters. */
final class CalibrateStage {
    private final NightContext night;
    private final NightState before;
    private final Focusing focusing;
    private final Conduct conduct;

    CalibrateStage(NightContext night, NightState before, Focusing focusing, Conduct conduct) {
        this.conduct = conduct;
        this.night = night;
        this.before = before;
        this.focusing = focusing;
    }

    static String darkMaster(double seconds) {
        return "dark_" + FrameArchive.seconds(seconds) + ".fits";
    }

    static String flatMaster(String filter) {
        return "flat_" + FrameArchive.plainName(filter) + ".fits";
    }

    /** Takes what is missing and builds the masters; the gate counts the sets. A set that fails costs only itself. */
    boolean run() throws InterruptedException {
        night.record().stage(Stage.CALIBRATE);
        List<CalibrationPlan.Set> sets = CalibrationPlan.of(night.program()).sets();
        List<String> missing = new ArrayList<>();
        Optional<Frame> bias = Optional.empty();
        for (CalibrationPlan.Set set : sets) {
            try {
                Optional<Frame> made = make(set, bias);
                bias = set.kind() == CalibrationPlan.Kind.BIAS ? made : bias;
            } catch (DeviceException | BadInputException e) {
                missing.add(words(set));
                night.record()
                        .fault(
                                Stage.CALIBRATE,
                                capital(words(set)) + " are left out: " + e.getMessage()
                                        + " They can still be taken by day, focus and camera angle untouched.");
            }
        }
        return night.record()
                .gate(
                        Gate.atLeast(Stage.CALIBRATE, sets.size() - missing.size(), sets.size(), "masters"),
                        missing.isEmpty() ? allThere(sets.size()) : "Missing: " + String.join(", ", missing) + ".");
    }

    private String allThere(int sets) {
        return night.archive().keepsFrames()
                ? "All " + sets + " masters are made."
                : "The frames of all " + sets + " sets are taken.";
    }

    private static String words(CalibrationPlan.Set set) {
        return switch (set.kind()) {
            case BIAS -> "bias frames";
            case FLAT -> "flats in " + set.filter();
            case DARK -> "darks of " + FrameArchive.seconds(set.seconds()).replace("s", " s");
        };
    }

    private static String capital(String words) {
        return words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    private Optional<Frame> make(CalibrationPlan.Set set, Optional<Frame> bias) throws InterruptedException {
        return switch (set.kind()) {
            case BIAS -> master(MasterKind.BIAS, "bias.fits", bias(set.frames()), Optional.empty());
            case FLAT -> master(MasterKind.FLAT, flatMaster(set.filter()), flats(set.filter(), set.frames()), bias);
            case DARK -> master(
                    MasterKind.DARK, darkMaster(set.seconds()), darks(set.seconds(), set.frames()), Optional.empty());
        };
    }

    private List<Path> bias(int wanted) throws InterruptedException {
        night.devices().panel().cover().await(night.clock());
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ZERO).ofKind(Camera.FrameKind.BIAS);
        return take("bias", "bias", wanted, exposure, "");
    }

    private List<Path> darks(double seconds, int wanted) throws InterruptedException {
        night.devices().panel().cover().await(night.clock());
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(seconds * 1000)))
                .ofKind(Camera.FrameKind.DARK);
        return take("dark_" + FrameArchive.seconds(seconds), "darks", wanted, exposure, "");
    }

    private List<Path> flats(String filter, int wanted) throws InterruptedException {
        String set = "flat_" + FrameArchive.plainName(filter);
        if (before.calibrationSet(set).size() >= wanted) {
            return take(set, "flats", wanted, Camera.Exposure.light(Duration.ZERO), filter);
        }
        // Focus goes with the filter, as it did for the lights.
        focusing.change(filter);
        night.record().doing(Stage.CALIBRATE, "Flat exposure for " + filter, Duration.ofSeconds(20));
        FlatExposure found = FlatExposure.search(
                night.devices().camera(),
                night.devices().panel(),
                night.clock(),
                night.gauge(),
                night.kit().sensor(),
                night.program().calibrations().flatLevel());
        Camera.Exposure exposure = Camera.Exposure.light(found.exposure()).ofKind(Camera.FrameKind.FLAT);
        return take(set, "flats", wanted, exposure, filter);
    }

    private List<Path> take(String set, String folder, int wanted, Camera.Exposure exposure, String filter)
            throws InterruptedException {
        List<Path> files = new ArrayList<>();
        for (String done : before.calibrationSet(set)) {
            files.add(night.archive().resolve(done));
        }
        while (files.size() < wanted) {
            conduct.announce("after this frame", exposure.length());
            conduct.safePoint(Stage.CALIBRATE);
            String what = String.format(Locale.ROOT, "%s %d of %d", set.replace('_', ' '), files.size() + 1, wanted);
            night.record().doing(Stage.CALIBRATE, what, exposure.length());
            Frame frame = night.devices().camera().expose(night.clock(), exposure);
            Header header = frame.header().with("TELESCOP", night.kit().name());
            frame = frame.withHeader(filter.isEmpty() ? header : header.with("FILTER", filter));
            String file = night.archive().save("calibration/" + folder, set, frame);
            double level = night.gauge().level(frame).centre();
            night.record().frame(Stage.CALIBRATE, what, frame, Optional.empty());
            night.record()
                    .tell(new CalibrationTaken(
                            night.record().now(),
                            String.format(Locale.ROOT, "%s, level %.0f ADU.", what, level),
                            set,
                            exposure.kind() == Camera.FrameKind.DARK,
                            file,
                            level,
                            exposure.length().toMillis() / 1000.0,
                            night.devices().camera().sensorTemperatureC()));
            files.add(night.archive().resolve(file));
        }
        return files;
    }

    private Optional<Frame> master(MasterKind kind, String name, List<Path> files, Optional<Frame> subtract) {
        if (files.isEmpty() || !night.archive().keepsFrames()) {
            return Optional.empty();
        }
        Path out = night.archive().derived("masters", name);
        if (Files.exists(out)) {
            return Optional.of(FitsFiles.read(out));
        }
        night.record().doing(Stage.CALIBRATE, "Combining " + name, Duration.ofSeconds(5));
        Optional<MasterPixels> under = subtract.map(MasterPixels::of);
        Frame master = new MasterBuilder(night.workers()).build(kind, files, under, Progress.NONE);
        FitsFiles.write(out, master, FitsFiles.Encoding.FLOAT_32);
        String against = against(kind, files, master, under);
        Statistics.Spread spread = Statistics.robust(Statistics.sample(master, 50_000));
        night.record().frame(Stage.CALIBRATE, "Master " + name, master, Optional.empty());
        night.record()
                .tell(new MasterMade(
                        night.record().now(),
                        String.format(Locale.ROOT, "Master %s from %d frames.%s", name, files.size(), against),
                        kind.word(),
                        name.replace(".fits", "").replace('_', ' '),
                        night.archive().relative(out),
                        files.size(),
                        spread.centre(),
                        spread.sigma()));
        return Optional.of(master);
    }

    /** What speaks against a master, in sentences; a look that fails costs no master. */
    private static String against(MasterKind kind, List<Path> files, Frame master, Optional<MasterPixels> under) {
        try {
            return MasterVerdict.of(kind, files, master, under).remarks().stream()
                    .filter(MasterVerdict.Remark::against)
                    .map(r -> " " + r.sentence())
                    .collect(Collectors.joining());
        } catch (BadInputException | UncheckedIOException unread) {
            return " It could not be looked at: " + unread.getMessage() + ".";
        }
    }
}
