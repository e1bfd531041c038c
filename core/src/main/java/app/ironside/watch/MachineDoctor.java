package app.ironside.watch;

import app.ironside.journal.AxisDoubted;
import app.ironside.journal.FaultTold;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.NightState;
import app.ironside.journal.SkyTested;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleSeen;
import app.ironside.kit.Kit;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** What devices tell by themselves, or by their silence; and what was found out about the axis. */
final class MachineDoctor {
    /** What failed so long ago and was not heard of since is over. */
    private static final Duration FRESH = Duration.ofMinutes(12);

    /** A few arcseconds of slack in a sub of some minutes. */
    private static final double SLACK_ARCSEC_PER_MIN = 2;

    private static final Duration REMEMBERED = Duration.ofHours(1);

    /** Devices that go within so short a time go for one reason. */
    private static final Duration TOGETHER = Duration.ofSeconds(90);

    /** A frame on the way to a target is followed by focus and guiding before the first sub is looked at. */
    private static final Duration TOLD_OF_THE_KIT = Duration.ofMinutes(25);

    private static final Set<String> ON_THE_SUPPLY =
            Set.of("camera", "guide camera", "mount", "focuser", "filter wheel", "flat panel", "rotator");

    private static final Set<String> SEES = Set.of("guider", "guide camera");

    private final NightState night;
    private final Course course;
    private final Kit kit;
    private final Instant now;

    MachineDoctor(NightState night, Course course, Kit kit, Instant now) {
        this.night = night;
        this.kit = kit;
        this.course = course;
        this.now = now;
    }

    List<Finding> findings() {
        List<Finding> found = new ArrayList<>();
        Instant lastSub = course.subs.isEmpty() ? Instant.EPOCH : course.time(course.last);
        List<FaultTold> fresh = night.all(FaultTold.class).stream()
                .filter(f -> f.about().isPresent()
                        && f.time().isAfter(lastSub)
                        && f.time().isAfter(now.minus(FRESH)))
                .toList();
        if (!fresh.isEmpty()) {
            machines(found, fresh);
        }
        night.last(AxisDoubted.class)
                .filter(a -> a.time().isAfter(now.minus(FRESH)))
                .ifPresent(a -> axis(found, a));
        cooler(found);
        night.last(FrameSolved.class)
                .filter(f -> f.time().isAfter(now.minus(TOLD_OF_THE_KIT)))
                .ifPresent(f -> kit(found, f));
        return found;
    }

    /** A sensor that is not where its darks will be: no light is lost, and their glow will stay in the stack. */
    private void cooler(List<Finding> found) {
        if (course.subs.isEmpty() || course.offSetPoint(course.last).isEmpty()) {
            return;
        }
        int from = course.from(i -> course.offSetPoint(i).isPresent());
        SubCircumstances.Cooling last = course.offSetPoint(course.last).orElseThrow();
        int subs = course.last - from + 1;
        String power = last.power().isPresent()
                ? Course.text(
                        " The cooler gives %.0f %% of its power.",
                        100 * last.power().getAsDouble())
                : "";
        found.add(course.found(
                from,
                Trouble.COOLER,
                0.97,
                Course.text(
                                "The sensor stood at %.1f °C and should be at %.0f; darks taken at the set point fit none of %d sub%s.",
                                last.sensorC(), last.wantedC(), subs, subs == 1 ? "" : "s")
                        + power));
    }

    /** The stars tell the scale, whatever the kit says; nothing else in a night could be taken for it. */
    private void kit(List<Finding> found, FrameSolved solved) {
        kit.otherFocalLength(solved.scaleArcsecPerPixel())
                .ifPresent(seen -> found.add(new Finding(solved.time(), Trouble.KIT, 0.9, seen.sentence(), 0, false)));
    }

    /** After a knock the axis is likeliest; else a cable may pull in declination too. */
    private void axis(List<Finding> found, AxisDoubted doubted) {
        boolean knocked = night.all(TroubleSeen.class).stream()
                .anyMatch(t -> t.trouble() == Trouble.KNOCK
                        && t.time().isAfter(doubted.since().minus(REMEMBERED)));
        if (!knocked && Math.abs(doubted.driftArcsecPerMinute()) < SLACK_ARCSEC_PER_MIN) {
            return; // told at Polar; slack that is taken up after each dither looks like this too
        }
        Finding polar = new Finding(doubted.since(), Trouble.POLAR, knocked ? 0.92 : 0.7, doubted.text(), 0, false);
        found.add(polar);
        found.add(polar.with(Trouble.CABLE, knocked ? 0.04 : 0.25));
    }

    private void machines(List<Finding> found, List<FaultTold> fresh) {
        FaultTold first = fresh.get(0);
        Set<String> together = new HashSet<>();
        for (FaultTold f : fresh) {
            String device = f.about().orElseThrow();
            if (ON_THE_SUPPLY.contains(device)
                    && Duration.between(first.time(), f.time()).compareTo(TOGETHER) <= 0) {
                together.add(device);
            }
        }
        if (together.size() >= 2) {
            String names = String.join(", ", together.stream().sorted().toList());
            add(found, first, Trouble.POWER, 0.93, "At once without an answer: " + names + ".");
            return;
        }
        FaultTold last = fresh.get(fresh.size() - 1);
        String device = last.about().orElseThrow();
        if (device.equals(FaultTold.DISK)) {
            add(found, first, Trouble.DISK, 0.98, last.text());
        } else if (device.equals("camera")) {
            add(found, first, Trouble.CAMERA, 0.9, last.text());
            add(found, first, Trouble.POWER, 0.08, last.text());
        } else if (device.equals(FaultTold.GUIDE_STAR)) {
            add(found, first, Trouble.WRONG_STAR, 0.92, last.text());
        } else if (SEES.contains(device)) {
            guideStarGone(found, first, last);
        } else if (device.equals("mount")) {
            Trouble still = course.subs.isEmpty() ? Trouble.MOUNT : course.standsStill();
            add(found, first, still, 0.75, last.text());
            add(found, first, still == Trouble.MOUNT ? Trouble.CONTACT : Trouble.MOUNT, 0.2, last.text());
        } else if (ON_THE_SUPPLY.contains(device)) {
            add(found, first, Trouble.DEVICE, 0.9, last.text());
        }
    }

    /** Whether the main camera still sees its stars tells the guide camera's trouble from the sky's. */
    private void guideStarGone(List<Finding> found, FaultTold first, FaultTold last) {
        double light = course.subs.isEmpty() ? Double.NaN : course.light(course.last);
        boolean trails = !course.subs.isEmpty() && course.trails(course.last);
        if (trails) {
            return; // what drew the stars out took the guide star along
        }
        Optional<Double> seen = night.last(SkyTested.class)
                .filter(t -> !t.time().isBefore(first.time()))
                .map(SkyTested::light);
        double clear = seen.orElse(light);
        double sky = seen.isPresent() ? 0.05 : 0.3;
        if (clear >= 0.75) {
            String sentence = last.text()
                    + Course.text(
                            seen.isPresent()
                                    ? " A short frame of the main camera shows %.0f %% of the light: the sky is clear."
                                    : " The main camera's last sub had %.0f %% of its light.",
                            100 * clear);
            add(found, first, Trouble.GUIDE_STAR, 0.95 - sky, sentence);
            add(found, first, Trouble.CLOUD, sky, sentence);
        } else {
            String sentence = last.text()
                    + (Double.isNaN(clear)
                            ? ""
                            : Course.text(" The main camera sees %.0f %% of the light.", 100 * clear));
            add(found, first, Trouble.CLOUD, 0.85, sentence);
            add(found, first, Trouble.GUIDE_STAR, 0.1, sentence);
        }
    }

    private static void add(List<Finding> found, FaultTold since, Trouble trouble, double certainty, String sentence) {
        found.add(new Finding(since.time(), trouble, certainty, sentence, 0, true));
    }
}
