package app.ironside.watch;

import app.ironside.journal.NightState;
import app.ironside.journal.Trouble;
import app.ironside.judge.Cause;
import app.ironside.kit.Kit;
import app.ironside.sky.Observer;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** From the state of a night to what is wrong now, the surest first. Looks at nothing but what the journal tells. */
public final class Diagnosis {
    /** Less sure than this, nothing is done by itself. */
    public static final double SURE_ENOUGH = 0.5;

    private final Kit kit;
    private final NightSigns signs;
    private final double skyMagPerArcsec2;

    public Diagnosis(Kit kit, Observer observer) {
        this.kit = kit;
        this.signs = new NightSigns(kit, observer);
        this.skyMagPerArcsec2 = observer.site().skyMagPerArcsec2();
    }

    /**
     * What is found.
     *
     * @param findings the surest first
     * @param subs the latest of the target that was taken last
     */
    public record Found(List<Finding> findings, List<Watched> subs) {}

    /** What is wrong at a moment. */
    public Found at(NightState night, Instant now) {
        List<Watched> subs = signs.of(night);
        Course course = new Course(subs);
        List<Finding> found = new ArrayList<>(new MachineDoctor(night, course, kit, now).findings());
        if (!subs.isEmpty()) {
            found.addAll(new LightDoctor(course, kit.equipment().offAxis().isPresent()).findings());
            found.addAll(new MotionDoctor(course, kit).findings());
            found.addAll(new ShutDoctor(course, kit, skyMagPerArcsec2).findings());
            Cause cause = subs.get(course.last).grade().cause();
            // A wrong kit explains no missing stars.
            boolean unexplained = found.stream().allMatch(f -> f.trouble() == Trouble.KIT);
            if (unexplained && (cause == Cause.WRONG_FIELD || cause == Cause.NO_STARS)) {
                found.add(course.found(
                        course.last,
                        cause == Cause.NO_STARS ? Trouble.NO_STARS : Trouble.WRONG_FIELD,
                        0.8,
                        SubsWatch.sentence(subs.get(course.last).grade().reason())));
            }
        }
        return new Found(oneEach(withoutWhatFollows(found)), subs);
    }

    /** Wet glass swells the stars too: that is no trouble of its own. */
    private static List<Finding> withoutWhatFollows(List<Finding> found) {
        boolean wet = found.stream()
                .anyMatch(
                        f -> List.of(Trouble.DEW, Trouble.FROST).contains(f.trouble()) && f.certainty() >= SURE_ENOUGH);
        boolean shut = has(found, Trouble.CAP);
        boolean frozen = has(found, Trouble.WRONG_STAR);
        boolean pulled = has(found, Trouble.BALANCE) || has(found, Trouble.RATE) || has(found, Trouble.CABLE);
        return found.stream()
                // Behind a cap that covers both there is no guide star either.
                .filter(f ->
                        !(shut && List.of(Trouble.CLOUD, Trouble.GUIDE_STAR).contains(f.trouble())))
                // A hot pixel drifts as no axis makes a star drift, and a pull bends the guide scope.
                .filter(f -> !(frozen && f.trouble() == Trouble.POLAR))
                .filter(f -> !(pulled && f.trouble() == Trouble.FLEXURE))
                .filter(f -> !wet
                        || !List.of(Trouble.FOCUS, Trouble.SLIP, Trouble.SEEING).contains(f.trouble()))
                .toList();
    }

    private static boolean has(List<Finding> found, Trouble trouble) {
        return found.stream().anyMatch(f -> f.trouble() == trouble && f.certainty() >= SURE_ENOUGH);
    }

    /** Of findings of one trouble the surest. */
    private static List<Finding> oneEach(List<Finding> found) {
        Map<Trouble, Finding> best = new EnumMap<>(Trouble.class);
        found.forEach(f -> best.merge(f.trouble(), f, (a, b) -> a.certainty() >= b.certainty() ? a : b));
        return best.values().stream()
                .sorted(Comparator.comparingDouble(Finding::certainty).reversed())
                .toList();
    }
}
