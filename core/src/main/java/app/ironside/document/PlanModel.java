package app.ironside.document;

import app.ironside.BadInputException;
import app.ironside.plan.Candidate;
import app.ironside.plan.Framing;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.Projects;
import app.ironside.plan.SeasonBoard;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;

/**
 * A night that is being planned: its draft with what can be taken back, which block and which object are looked at, and how objects are
 * framed. Knows no screen and waits for nothing: what takes long is given as a step from draft to draft, for whoever has time. Belongs to
 * one thread.
 */
public final class PlanModel {
    private static final int SEASON_OF_A_CLASS = 3;
    private static final int SEASON_ROWS = 10;

    private final DeepSkyCatalogue objects;
    private final History<NightDraft> history;
    private final Map<String, Framing> framings = new LinkedHashMap<>();
    private Optional<NightDraft> preview = Optional.empty();

    /** What is shown to be taken or left. */
    private Optional<NightDraft> proposed = Optional.empty();

    private Optional<DeepSkyObject> looked = Optional.empty();
    private int block = -1;

    /** The draft that the last move of a frame made; more moves go on with it. */
    private Optional<NightDraft> beingFramed = Optional.empty();

    public PlanModel(DeepSkyCatalogue objects, NightDraft first) {
        this.objects = objects;
        this.history = new History<>(first);
    }

    // ---- the draft
    // -------------------------------------------------------------------------------------------------------

    /** The plan as it is seen: while a block is dragged, or another plan is proposed, as it would be. */
    public NightDraft draft() {
        return preview.or(() -> proposed).orElseGet(history::now);
    }

    /** The plan as it stands. */
    public NightDraft settled() {
        return history.now();
    }

    public NightFile file() {
        return draft().file();
    }

    /** Shows what a step that is not taken yet would give. */
    public void preview(NightDraft next) {
        preview = Optional.of(next);
    }

    /** Shows another plan, which stands only when it is taken, or worked on. */
    public void propose(NightDraft next) {
        preview = Optional.empty();
        proposed = Optional.of(next);
    }

    public boolean isProposed() {
        return proposed.isPresent();
    }

    /** The plan stays as it was. */
    public void leaveProposed() {
        proposed = Optional.empty();
    }

    /** What is proposed becomes a step that can be taken back. */
    public void takeProposed() {
        proposed.ifPresent(this::change);
    }

    /** What the next change starts from: what is seen, so that changing a proposed plan takes it. */
    public NightDraft workedOn() {
        takeProposed();
        return settled();
    }

    /** A step that can be taken back. */
    public void change(NightDraft next) {
        preview = Optional.empty();
        proposed = Optional.empty();
        history.change(next);
    }

    public boolean canUndo() {
        return history.canUndo();
    }

    public boolean canRedo() {
        return history.canRedo();
    }

    public void undo() {
        preview = Optional.empty();
        proposed = Optional.empty();
        history.undo();
    }

    public void redo() {
        preview = Optional.empty();
        proposed = Optional.empty();
        history.redo();
    }

    /** Whether a draft is of the same place, kit and date: what was reckoned for one holds for the other. */
    public boolean isSameNight(NightDraft other) {
        NightFile then = other.file();
        return then.site().equals(file().site())
                && then.kit().equals(file().kit())
                && then.program().date().equals(file().program().date());
    }

    // ---- what is looked at
    // -----------------------------------------------------------------------------------------------

    /** The chosen block's place in the plan, -1 if none is chosen. */
    public int chosen() {
        return block;
    }

    public Optional<PlannedBlock> chosenBlock() {
        List<PlannedBlock> blocks = draft().plan().blocks();
        return block >= 0 && block < blocks.size() ? Optional.of(blocks.get(block)) : Optional.empty();
    }

    /** Chooses a block, -1 for none; its object is looked at. */
    public void choose(int next) {
        block = next;
        chosenBlock().flatMap(b -> objects.find(b.target().name())).ifPresent(this::look);
    }

    /** Chooses the block at a moment, if there is one. */
    public void chooseAt(Instant moment) {
        List<PlannedBlock> blocks = draft().plan().blocks();
        block = IntStream.range(0, blocks.size())
                .filter(i -> blocks.get(i).span().contains(moment))
                .reduce((a, b) -> b)
                .orElse(-1);
    }

    public Optional<DeepSkyObject> looked() {
        return looked;
    }

    public void look(DeepSkyObject object) {
        looked = Optional.of(object);
    }

    /** Where nothing is looked at, the first target of the plan is. */
    public void lookAtFirstTarget() {
        if (looked.isEmpty() && !draft().plan().blocks().isEmpty()) {
            looked = objects.find(draft().plan().blocks().get(0).target().name());
        }
    }

    // ---- steps
    // ------------------------------------------------------------------------------------------------------------

    /** Where the chosen block would lie with one end (-1 first, 1 last) or both (0) moved; empty if too little were left of it. */
    public Optional<Interval> nudged(int edge, Duration by) {
        return chosenBlock()
                .map(PlannedBlock::span)
                .filter(s -> edge == 0
                        || s.duration().plus(edge < 0 ? by.negated() : by).compareTo(NightDraft.SHORTEST) >= 0)
                .map(s -> new Interval(
                        edge <= 0 ? s.from().plus(by) : s.from(),
                        edge >= 0 ? s.until().plus(by) : s.until()));
    }

    /**
     * Puts what is looked at into the free time of the night, or into the end of what it can have; empty if nothing is looked at.
     *
     * @param broadUnderMoon the school that takes bright targets at any time
     * @return a step that throws {@link BadInputException} if the object has no hour
     */
    public Optional<UnaryOperator<NightDraft>> addLooked(boolean broadUnderMoon) {
        return looked.map(object -> {
            TargetPlan target = target(object, broadUnderMoon);
            return now -> now.add(
                    target,
                    freeTime(now, object)
                            .orElseThrow(() -> new BadInputException(
                                    object.id(),
                                    "has no dark hour above the skyline tonight",
                                    "another night or target")));
        });
    }

    /** Whether an object is taken while cloud covers another. */
    public boolean standsIn(DeepSkyObject object) {
        return standIn(file().program(), object).isPresent();
    }

    private Optional<TargetPlan> standIn(Program program, DeepSkyObject object) {
        return program.standIns().stream().filter(t -> isOf(t, object)).findFirst();
    }

    /** The step that keeps the object that is looked at as one that is taken while cloud covers another, or no longer does. */
    public Optional<UnaryOperator<NightDraft>> standInLooked(boolean broadUnderMoon) {
        return looked.map(object -> {
            TargetPlan target = target(object, broadUnderMoon);
            return now -> {
                List<TargetPlan> others = new ArrayList<>(now.file().program().standIns());
                standIn(now.file().program(), object).ifPresentOrElse(others::remove, () -> others.add(target));
                return now.withProgram(now.file().program().withStandIns(others));
            };
        });
    }

    /** Its longest usable stretch that no block has; else the last third of it. */
    private static Optional<Interval> freeTime(NightDraft now, DeepSkyObject object) {
        List<Interval> usable = now.outlook().window(object.position()).usable();
        List<Interval> free = usable;
        for (PlannedBlock b : now.plan().blocks()) {
            free = free.stream().flatMap(u -> u.without(b.span()).stream()).toList();
        }
        return longest(free)
                .filter(i -> i.duration().compareTo(NightDraft.SHORTEST) > 0)
                .or(() -> longest(usable)
                        .map(u -> new Interval(
                                u.from().plus(u.duration().multipliedBy(2).dividedBy(3)), u.until())));
    }

    private static Optional<Interval> longest(List<Interval> intervals) {
        return intervals.stream().max(Comparator.comparing(Interval::duration));
    }

    private TargetPlan target(DeepSkyObject object, boolean broadUnderMoon) {
        TargetPlan target = new TargetPlan(
                object.id(), object.position(), Projects.goals(object, file().kit(), file().site(), false), 2);
        return Optional.ofNullable(framings.get(object.id()))
                .map(f -> target.framed(f.centre(), f.angleDeg()))
                .orElse(target);
    }

    /** The chosen block, or the first one of the object that is looked at. */
    public Optional<PlannedBlock> meant() {
        return meantBlocks().stream()
                .findFirst()
                .map(i -> draft().plan().blocks().get(i));
    }

    /** The target that is meant: of the chosen block or what is looked at, which may only stand in. */
    public Optional<TargetPlan> meantTarget() {
        return meant().map(PlannedBlock::target).or(this::lookedStandIn);
    }

    /** The sub length of what is meant, where it has one for all its filters. */
    public Optional<Double> subSeconds() {
        return meantTarget().flatMap(TargetPlan::subSeconds);
    }

    /** Other settings for the chosen block, or for all blocks of the object that is looked at; of one that only stands in, its own. */
    public UnaryOperator<NightDraft> with(UnaryOperator<TargetPlan> change) {
        List<Integer> blocks = meantBlocks();
        Optional<DeepSkyObject> other = blocks.isEmpty() ? looked : Optional.empty();
        return now -> other.isEmpty()
                ? now.replace(blocks, change)
                : now.withProgram(now.file()
                        .program()
                        .withStandIns(now.file().program().standIns().stream()
                                .map(t -> isOf(t, other.get()) ? change.apply(t) : t)
                                .toList()));
    }

    /** Another sub length for all filters of what is meant. */
    public UnaryOperator<NightDraft> withSubSeconds(double seconds) {
        return with(t -> t.withSubSeconds(seconds));
    }

    /** What is looked at, if it only stands in; a chosen block of another target is not meant then. */
    private Optional<TargetPlan> lookedStandIn() {
        return looked.filter(o -> planned(o).isEmpty()).flatMap(o -> standIn(file().program(), o));
    }

    private List<Integer> meantBlocks() {
        List<PlannedBlock> blocks = draft().plan().blocks();
        if (lookedStandIn().isPresent()) {
            return List.of();
        }
        if (chosenBlock().isPresent()) {
            return List.of(block);
        }
        return IntStream.range(0, blocks.size())
                .filter(i -> looked.filter(
                                o -> o.id().equals(blocks.get(i).target().name()))
                        .isPresent())
                .boxed()
                .toList();
    }

    // ---- framing
    // ----------------------------------------------------------------------------------------------------------

    /** The frame of an object: as the plan has it, or as it was left, or with the object in its middle. */
    public Framing framing(DeepSkyObject object) {
        Framing left = framings.getOrDefault(object.id(), new Framing(file().kit(), object.position(), 0));
        return planned(object)
                .map(t -> new Framing(file().kit(), t.position(), t.angleDeg().orElse(left.angleDeg())))
                .orElse(left);
    }

    /** Whether an angle was chosen for an object. */
    public boolean isFramed(DeepSkyObject object) {
        return framings.containsKey(object.id())
                || planned(object).flatMap(TargetPlan::angleDeg).isPresent();
    }

    /** Whether a target of the plan is an object of the catalogue, by whichever of its names. */
    public boolean isOf(TargetPlan target, DeepSkyObject object) {
        return objects.find(target.name())
                .filter(o -> o.id().equals(object.id()))
                .isPresent();
    }

    /** The plan's target that is an object. */
    public Optional<TargetPlan> planned(DeepSkyObject object) {
        return file().program().targets().stream().filter(t -> isOf(t, object)).findFirst();
    }

    /** Keeps another frame for an object; of a planned target it is a step, to be given to {@link #framed}. */
    public Optional<UnaryOperator<NightDraft>> frame(DeepSkyObject object, Framing framing) {
        framings.put(object.id(), framing);
        return planned(object).map(t -> now -> now.framed(t.name(), framing.centre(), framing.angleDeg()));
    }

    /** Takes the step that moved a frame; many moves of one frame are taken back at once. A move that another change overtook is left out. */
    public void framed(NightDraft from, NightDraft next) {
        if (settled() != from) {
            return;
        }
        preview = Optional.empty();
        if (beingFramed.filter(f -> f == from).isPresent()) {
            history.amend(next);
        } else {
            history.change(next);
        }
        beingFramed = Optional.of(next);
    }

    /** Frames belong to a kit. */
    public void forgetFramings() {
        framings.clear();
    }

    // ---- the year
    // ---------------------------------------------------------------------------------------------------------

    /** What the board of the season shows: the plan's targets, what is looked at, and the best of each class. */
    public List<DeepSkyObject> seasonTargets(List<Candidate> candidates, Set<String> setAside) {
        Set<DeepSkyObject> targets = new LinkedHashSet<>();
        draft().plan().blocks().forEach(b -> objects.find(b.target().name()).ifPresent(targets::add));
        looked.ifPresent(targets::add);
        List<DeepSkyObject> proposed = candidates.stream()
                .map(Candidate::object)
                .filter(o -> !setAside.contains(o.id()))
                .toList();
        for (SeasonBoard.ObjectClass of : SeasonBoard.ObjectClass.values()) {
            proposed.stream()
                    .filter(o -> SeasonBoard.ObjectClass.of(o.kind()) == of)
                    .limit(SEASON_OF_A_CLASS)
                    .forEach(targets::add);
        }
        return new ArrayList<>(targets).subList(0, Math.min(SEASON_ROWS, targets.size()));
    }
}
