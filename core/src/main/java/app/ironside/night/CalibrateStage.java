package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.Progress;
import app.ironside.calibrate.FlatExposure;
import app.ironside.calibrate.MasterBuilder;
import app.ironside.calibrate.MasterKind;
import app.ironside.device.Camera;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import app.ironside.plan.TargetPlan;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;

/** Takes the calibration frames that the night's lights need, at their settings, and makes the masters. */
final class CalibrateStage {
    private final NightContext night;
    private final NightSoFar before;

    CalibrateStage(NightContext night, NightSoFar before) {
        this.night = night;
        this.before = before;
    }

    static String darkMaster(double seconds) {
        return String.format(Locale.ROOT, "dark_%.0fs.fits", seconds);
    }

    static String flatMaster(String filter) {
        return "flat_" + filter + ".fits";
    }

    /** Takes what is missing and builds the masters; the gate counts the sets. */
    boolean run() throws InterruptedException {
        night.record().stage(Stage.CALIBRATE);
        int sets = 0;
        int made = 0;
        List<Path> bias = bias();
        sets++;
        Optional<Frame> masterBias = master(MasterKind.BIAS, "bias.fits", bias, Optional.empty());
        made += masterBias.isPresent() ? 1 : 0;
        for (String filter : filters()) {
            sets++;
            List<Path> flats = flats(filter);
            made += master(MasterKind.FLAT, flatMaster(filter), flats, masterBias)
                            .isPresent()
                    ? 1
                    : 0;
        }
        night.devices().panel().cover();
        for (double seconds : exposures()) {
            sets++;
            List<Path> darks = darks(seconds);
            made += master(MasterKind.DARK, darkMaster(seconds), darks, Optional.empty())
                            .isPresent()
                    ? 1
                    : 0;
        }
        return night.record()
                .gate(new Gate(
                        Stage.CALIBRATE,
                        made,
                        sets,
                        "masters",
                        false,
                        made == sets ? "All " + sets + " masters are made." : (sets - made) + " masters are missing."));
    }

    private TreeSet<String> filters() {
        TreeSet<String> filters = new TreeSet<>();
        night.program().targets().forEach(t -> filters.addAll(t.filters()));
        return filters;
    }

    private TreeSet<Double> exposures() {
        TreeSet<Double> exposures = new TreeSet<>();
        for (TargetPlan target : night.program().targets()) {
            exposures.add(target.subSeconds());
        }
        return exposures;
    }

    private List<Path> bias() throws InterruptedException {
        night.devices().panel().cover();
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ZERO).ofKind(Camera.FrameKind.BIAS);
        return take("bias", "bias", night.program().calibrations().bias(), exposure, "");
    }

    private List<Path> darks(double seconds) throws InterruptedException {
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(seconds * 1000)))
                .ofKind(Camera.FrameKind.DARK);
        String set = String.format(Locale.ROOT, "dark_%.0fs", seconds);
        return take(set, "darks", night.program().calibrations().darks(), exposure, "");
    }

    private List<Path> flats(String filter) throws InterruptedException {
        int wanted = night.program().calibrations().flatsPerFilter();
        String set = "flat_" + filter;
        if (wanted == 0 || before.calibrationSet(set).size() >= wanted) {
            return take(set, "flats", wanted, Camera.Exposure.light(Duration.ZERO), filter);
        }
        int slot = night.kit().filterSlot(filter);
        night.devices().wheel().select(slot);
        night.clock().await(night.devices().wheel().remaining());
        night.record().doing(Stage.CALIBRATE, "Flat exposure for " + filter, Duration.ofSeconds(20));
        FlatExposure found = FlatExposure.search(
                night.devices().camera(),
                night.devices().panel(),
                night.clock(),
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
            String what = String.format(Locale.ROOT, "%s %d of %d", set.replace('_', ' '), files.size() + 1, wanted);
            night.record().doing(Stage.CALIBRATE, what, exposure.length());
            Frame frame = night.devices().camera().expose(night.clock(), exposure);
            if (!filter.isEmpty()) {
                frame = frame.withHeader(frame.header().with("FILTER", filter));
            }
            String file = night.archive().save("calibration/" + folder, set, frame);
            double level = Statistics.median(Statistics.sample(frame, 20_000));
            night.record().frame(Stage.CALIBRATE, what, frame, Optional.empty());
            night.record()
                    .event(
                            EventKind.CALIBRATION,
                            String.format(Locale.ROOT, "%s, level %.0f ADU.", what, level),
                            facts(
                                    "set", set,
                                    "file", file,
                                    "levelAdu", level,
                                    "seconds", exposure.length().toMillis() / 1000.0,
                                    "sensorC", night.devices().camera().sensorTemperatureC()));
            files.add(night.archive().resolve(file));
        }
        return files;
    }

    private Optional<Frame> master(MasterKind kind, String name, List<Path> files, Optional<Frame> subtract) {
        if (files.isEmpty()) {
            return Optional.empty();
        }
        Path out = night.archive().derived("masters", name);
        if (Files.exists(out)) {
            return Optional.of(FitsFiles.read(out));
        }
        night.record().doing(Stage.CALIBRATE, "Combining " + name, Duration.ofSeconds(5));
        Frame master = new MasterBuilder(night.workers()).build(kind, files, subtract, Progress.NONE);
        FitsFiles.write(out, master, FitsFiles.Encoding.FLOAT_32);
        Statistics.Spread spread = Statistics.robust(Statistics.sample(master, 50_000));
        night.record().frame(Stage.CALIBRATE, "Master " + name, master, Optional.empty());
        night.record()
                .event(
                        EventKind.MASTER,
                        String.format(Locale.ROOT, "Master %s from %d frames.", name, files.size()),
                        facts(
                                "kind", kind.word(),
                                "file", night.archive().relative(out),
                                "frames", files.size(),
                                "level", spread.centre(),
                                "spread", spread.sigma()));
        return Optional.of(master);
    }
}
