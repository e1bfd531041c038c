package app.ironside.wiring;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.kit.FilterSpec;
import app.ironside.library.FrameFacts;
import app.ironside.library.FrameKind;
import app.ironside.library.Library;
import app.ironside.library.Told;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What a night is drawn by that is only looked on at: place and kit as the desk has them, date, target and filters as the frames say that lie
 * in its folder.
 *
 * @param file the night
 * @param first when the first light in the folder was begun; empty while there is none
 */
public record FolderPlan(NightFile file, Optional<Instant> first) {
    private static final double USUAL_SECONDS = 60;

    /**
     * Reads the headers in a folder. Takes too long for the interface thread.
     *
     * @param base place, kit and rules; with nothing in the folder its targets and {@code tonight} too
     */
    static FolderPlan of(Path folder, NightFile base, LocalDate tonight, DeepSkyCatalogue objects, Workers workers) {
        Library library = Library.read(List.of(folder), p -> false, Told.NOTHING, workers, Progress.NONE);
        Optional<FrameFacts> first = library.frames().stream()
                .map(Library.Indexed::facts)
                .filter(f -> (f.kind() == FrameKind.LIGHT || f.kind() == FrameKind.UNKNOWN)
                        && f.start().isPresent())
                .min(Comparator.comparing(f -> f.start().orElseThrow()));
        ZoneId zone = base.site().zone();
        LocalDate date =
                first.flatMap(FrameFacts::start).map(t -> evening(t, zone)).orElse(tonight);
        Optional<TargetPlan> target = first.flatMap(f -> target(f, base, objects));
        List<TargetPlan> targets = target.map(List::of).orElse(base.program().targets());
        return new FolderPlan(
                NightFile.of(
                        base.site(),
                        base.kit(),
                        base.program().withTargets(date, targets),
                        List.of(),
                        base.observatory()),
                first.flatMap(FrameFacts::start));
    }

    /** A night belongs to the day on whose noon it follows. */
    private static LocalDate evening(Instant time, ZoneId zone) {
        return time.atZone(zone).minusHours(12).toLocalDate();
    }

    private static Optional<TargetPlan> target(FrameFacts facts, NightFile base, DeepSkyCatalogue objects) {
        Optional<DeepSkyObject> known = facts.target().flatMap(objects::find);
        Optional<Equatorial> place = facts.pointed().or(() -> known.map(DeepSkyObject::position));
        String filter = facts.filter()
                .filter(name ->
                        base.kit().filters().stream().map(FilterSpec::name).anyMatch(name::equals))
                .orElse(base.kit().filters().get(0).name());
        double seconds = Math.max(1, facts.exposureS().orElse(USUAL_SECONDS));
        return place.map(at ->
                new TargetPlan(facts.target().orElse("unnamed"), at, List.of(new FilterGoal(filter, seconds)), 1));
    }
}
