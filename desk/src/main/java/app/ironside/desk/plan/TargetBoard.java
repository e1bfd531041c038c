package app.ironside.desk.plan;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.document.NightDraft;
import app.ironside.logbook.Profiles;
import app.ironside.plan.Candidate;
import app.ironside.plan.CandidateSearch;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.SeasonBoard;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import app.ironside.sky.SkyNames;
import app.ironside.wiring.Wiring;
import java.time.LocalDate;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;

/** What could be taken: the catalogue weighed for the planned night or a stretch of it, and for a year. Interface thread only. */
public final class TargetBoard {
    private final PlanDesk plan;
    private final DeepSkyCatalogue objects;
    private final CandidateSearch search;
    private final Profiles profiles;
    private final Supplier<SkyNames> names;
    private List<Candidate> candidates = List.of();
    private Optional<SeasonBoard> season = Optional.empty();
    private Candidate.Level level = Candidate.Level.PRACTISED;
    private Optional<Interval> gap = Optional.empty();

    /** The block whose time is weighed for what may stand in for it. */
    private Optional<PlannedBlock> covered = Optional.empty();

    private Set<String> setAside;

    TargetBoard(PlanDesk plan, Wiring wiring, Profiles profiles) {
        this.plan = plan;
        this.objects = wiring.objects();
        this.search = new CandidateSearch(objects, wiring.stars());
        this.profiles = profiles;
        this.names = wiring::names;
        this.setAside = profiles.setAside();
    }

    /** What stands well in the night, the best first. */
    public List<Candidate> candidates() {
        return candidates;
    }

    /** The year, once it was asked for. */
    public Optional<SeasonBoard> season() {
        return season;
    }

    Candidate.Level level() {
        return level;
    }

    /** Another night, place or kit: nothing that was weighed before holds. */
    void renew() {
        gap = Optional.empty();
        covered = Optional.empty();
        season = Optional.empty();
        rank();
        needSeason();
    }

    /** Weighs the year, if it is looked at and not there. */
    void needSeason() {
        if (plan.tab() == PlanDesk.Tab.SEASON && season.isEmpty()) {
            computeSeason();
        }
    }

    void rank() {
        NightDraft now = plan.draft();
        CandidateSearch.Wish wish = new CandidateSearch.Wish(
                now.file().program().minimumAltitudeDeg(), level, plan.clouds(), gap.map(now::gap));
        plan.compute(
                () -> search.rank(
                        now.file().site(), now.file().kit(), now.plan().times(), wish, Workers.ALL_CORES),
                found -> {
                    candidates = found.stream().filter(this::mayStandIn).toList();
                    plan.model().lookAtFirstTarget();
                });
    }

    private void computeSeason() {
        NightDraft now = plan.draft();
        List<DeepSkyObject> targets = plan.model().seasonTargets(candidates, setAside);
        LocalDate first = SeasonBoard.firstNight(now.file().program().date());
        double minimum = now.file().program().minimumAltitudeDeg();
        plan.compute(
                () -> SeasonBoard.of(
                        now.file().site(),
                        targets,
                        SeasonBoard.typical(
                                objects, now.file().site(), now.file().kit()),
                        first,
                        365,
                        new SeasonBoard.Settings(minimum, Workers.ALL_CORES, Progress.NONE)),
                board -> season = Optional.of(board));
    }

    /** Looks at an object, whether it is planned or not. */
    void look(DeepSkyObject object) {
        plan.model().look(object);
        if (season.filter(b -> b.rows().stream().noneMatch(r -> r.object() == object))
                .isPresent()) {
            season = Optional.empty();
            needSeason();
        }
        plan.changed();
    }

    /** Looks at whatever the catalogue has of a name, or of a part of one. */
    void find(String name) {
        if (name.isBlank()) {
            return;
        }
        Optional<SkyNames.Place> found = names.get().find(name);
        Optional<DeepSkyObject> object = found.flatMap(SkyNames.Place::object);
        if (object.isPresent()) {
            plan.note("");
            look(object.get());
        } else {
            plan.note(
                    found.isPresent()
                            ? "\"" + name.strip()
                                    + "\" is a place, but no object of the catalogue that could be planned."
                            : "The catalogue has no \"" + name.strip() + "\".");
        }
    }

    /** What is done with or not wanted. */
    Set<String> setAside() {
        return setAside;
    }

    /** Sets an object aside, so that it is not proposed, or takes it back. */
    public void toggleAside(DeepSkyObject object) {
        Set<String> next = new LinkedHashSet<>(setAside);
        if (!next.remove(object.id())) {
            next.add(object.id());
        }
        plan.saveProfile(p -> p.saveSetAside(next));
        setAside = Set.copyOf(next);
        season = Optional.empty();
        plan.changed();
    }

    /** The stretch that candidates are weighed for; empty for the whole night. */
    Optional<Interval> gap() {
        return gap;
    }

    /** Weighs the catalogue for a stretch of the night, or for all of it. */
    public void setGap(Optional<Interval> next) {
        gap = next;
        covered = Optional.empty();
        rank();
        plan.changed();
    }

    /** Weighs the time of a block for what could be taken while cloud covers its target. */
    void weighStandIns(PlannedBlock block) {
        gap = Optional.of(block.span());
        covered = Optional.of(block);
        rank();
        plan.changed();
    }

    /** The block whose time is weighed for stand-ins. */
    Optional<PlannedBlock> covered() {
        return covered;
    }

    private boolean mayStandIn(Candidate candidate) {
        return covered.map(b ->
                        candidate.object().position().separationDeg(b.target().position())
                                >= Program.STAND_IN_APART_DEG)
                .orElse(true);
    }

    void setLevel(Candidate.Level next) {
        level = next;
        rank();
    }
}
