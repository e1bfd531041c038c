package app.ironside.document;

import app.ironside.logbook.Gathering;
import app.ironside.logbook.Harvest;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.TargetNight;
import app.ironside.plan.FilterGoal;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * A picture that takes many nights: what was gathered, what is wanted of it, and what each of its nights gave.
 *
 * @param wanted hours in all, by filter; empty where no end is set
 * @param clearNightsAMonth the person's own; empty while the record is short
 * @param nights that took a sub of it, those that kept none among them, oldest first
 */
public record Project(
        Gathering of, Map<String, Double> wanted, Optional<Double> clearNightsAMonth, List<TargetNight> nights) {
    public Project {
        wanted = Map.copyOf(wanted);
        nights = List.copyOf(nights);
    }

    /**
     * As the logbook and the night on the desk tell it.
     *
     * @param onDesk whose wishes are the newest; empty where there is none
     * @param today from which clear nights are counted back
     */
    public static Project of(
            Gathering of, Logbook logbook, DeepSkyCatalogue objects, Optional<NightFile> onDesk, LocalDate today) {
        Harvest harvest = logbook.harvest();
        Map<String, Double> wanted = onDesk.map(f -> wanted(f, of.target(), objects))
                .filter(w -> !w.isEmpty())
                .or(() -> harvest.newest(of)
                        .map(n -> wanted(NightFile.parse(n.document(), n.title(), objects), of.target(), objects)))
                .orElse(Map.of());
        return new Project(
                of,
                wanted,
                harvest.account().clearNightsAMonth(today),
                harvest.nightsOf(of, name -> sameName(name, objects)));
    }

    /** All that a logbook gathered, the most first. */
    public static List<Gathering> all(Logbook logbook, DeepSkyCatalogue objects) {
        return logbook.harvest().gatherings(name -> sameName(name, objects));
    }

    /** People write M33 and M 33: the catalogue's own name where it knows the target. */
    public static String sameName(String target, DeepSkyCatalogue objects) {
        return objects.find(target).map(DeepSkyObject::id).orElse(target);
    }

    private static Map<String, Double> wanted(NightFile night, String target, DeepSkyCatalogue objects) {
        Map<String, Double> wanted = new TreeMap<>();
        night.program().targets().stream()
                .filter(t -> sameName(t.name(), objects).equals(target))
                .flatMap(t -> t.goals().stream())
                .forEach(g -> g.gathered()
                        .map(FilterGoal.Gathered::hoursWanted)
                        .ifPresent(hours -> wanted.merge(g.filter(), hours, Math::max)));
        return wanted;
    }

    /** All of which something is kept or wanted. */
    public List<String> filters() {
        TreeSet<String> names = new TreeSet<>(of.kept().keySet());
        names.addAll(wanted.keySet());
        return List.copyOf(names);
    }

    public String title() {
        return of.target() + (of.rehearsed() ? ", rehearsed" : "");
    }

    /** Where it stands. */
    public String sentence() {
        return of.sentence(wanted, clearNightsAMonth);
    }
}
