package app.ironside.journal;

import app.ironside.Provenance;
import app.ironside.sky.Interval;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * How a night stands: the one fold of its events. Immutable; {@link #with} is cheap, so that a state can be kept for each moment of a
 * night.
 */
public final class NightState {
    /** Before anything happened. */
    public static final NightState EMPTY = new NightState(
            new GrowingList<>(), Map.of(), new GrowingList<>(), new EnumMap<>(Stage.class), Optional.empty(), 0);

    private final GrowingList<NightEvent> events;

    /** By kind; of subs those with the verdict that stands. */
    private final Map<Class<?>, GrowingList<NightEvent>> byKind;

    private final GrowingList<SubTaken> subs;
    private final EnumMap<Stage, GateMeasured> gates;
    private final Optional<Stage> stage;
    private final int kept;

    private NightState(
            GrowingList<NightEvent> events,
            Map<Class<?>, GrowingList<NightEvent>> byKind,
            GrowingList<SubTaken> subs,
            EnumMap<Stage, GateMeasured> gates,
            Optional<Stage> stage,
            int kept) {
        this.events = events;
        this.byKind = byKind;
        this.subs = subs;
        this.gates = gates;
        this.stage = stage;
        this.kept = kept;
    }

    /** The state after some events, in the order in which they were told. */
    public static NightState of(List<? extends NightEvent> events) {
        NightState state = EMPTY;
        for (NightEvent event : events) {
            state = state.with(event);
        }
        return state;
    }

    /** The state after one more event. */
    public NightState with(NightEvent event) {
        Map<Class<?>, GrowingList<NightEvent>> kinds = new HashMap<>(byKind);
        kinds.put(
                event.getClass(),
                kinds.getOrDefault(event.getClass(), new GrowingList<>()).plus(event));
        NightState next = new NightState(events.plus(event), kinds, subs, gates, stage, kept);
        if (event instanceof StageBegan began) {
            return new NightState(next.events, kinds, subs, gates, Optional.of(began.stage()), kept);
        }
        if (event instanceof GateMeasured measured) {
            EnumMap<Stage, GateMeasured> now = new EnumMap<>(gates);
            now.put(measured.gate().stage(), measured);
            return new NightState(next.events, kinds, subs, now, stage, kept);
        }
        if (event instanceof SubTaken sub) {
            return new NightState(next.events, kinds, subs.plus(sub), gates, stage, kept + (sub.kept() ? 1 : 0));
        }
        if (event instanceof SubRegraded regraded) {
            return next.judged(regraded);
        }
        return next;
    }

    private NightState judged(SubRegraded regraded) {
        GrowingList<SubTaken> all = new GrowingList<>();
        int stillKept = 0;
        for (SubTaken sub : subs) {
            SubTaken now = sub.file().equals(regraded.file()) ? sub.judged(regraded.verdict()) : sub;
            all = all.plus(now);
            stillKept += now.kept() ? 1 : 0;
        }
        GrowingList<NightEvent> told = new GrowingList<>();
        for (NightEvent event : events) {
            told = told.plus(
                    event instanceof SubTaken sub && sub.file().equals(regraded.file())
                            ? sub.judged(regraded.verdict())
                            : event);
        }
        return new NightState(told, byKind, all, gates, stage, stillKept);
    }

    /** Everything that happened, in the order in which it was told; each sub with the verdict that stands. */
    public List<NightEvent> events() {
        return events;
    }

    /** All events of a kind; of subs those with the verdict that stands. */
    public <T extends NightEvent> List<T> all(Class<T> kind) {
        List<?> found = kind == SubTaken.class ? subs : byKind.getOrDefault(kind, new GrowingList<>());
        @SuppressWarnings("unchecked")
        List<T> typed = (List<T>) found;
        return typed;
    }

    /** The last event of a kind. */
    public <T extends NightEvent> Optional<T> last(Class<T> kind) {
        List<T> found = all(kind);
        return found.isEmpty() ? Optional.empty() : Optional.of(found.get(found.size() - 1));
    }

    /** All subs, each with the verdict that stands. */
    public List<SubTaken> subs() {
        return subs;
    }

    /** How many subs are kept. */
    public int kept() {
        return kept;
    }

    /** Seconds of light in the subs that are kept. */
    public double lightSeconds() {
        return subs.stream()
                .filter(SubTaken::kept)
                .mapToDouble(SubTaken::seconds)
                .sum();
    }

    /** How many subs were promised before dusk, and by what the program was changed to. */
    public int subsPlanned() {
        return all(BlockPlanned.class).stream().mapToInt(BlockPlanned::subs).sum();
    }

    public boolean started() {
        return byKind.containsKey(NightStarted.class);
    }

    public boolean ended() {
        return byKind.containsKey(NightEnded.class);
    }

    /** The stage that began last. */
    public Optional<Stage> stage() {
        return stage;
    }

    /** Whether somebody else runs it, and only its frames are known. */
    public boolean isWatched() {
        return last(NightStarted.class)
                .filter(n -> n.provenance() == Provenance.WATCHED)
                .isPresent();
    }

    /** The last gate of a stage. */
    public Optional<GateMeasured> gate(Stage of) {
        return Optional.ofNullable(gates.get(of));
    }

    /** Whether the last gate of a stage was passed. */
    public boolean passed(Stage of) {
        return gate(of).filter(g -> g.gate().passed()).isPresent();
    }

    /** How many subs of a target were finished within a span: the same target may come twice in a night. */
    public int subsOf(String target, Interval span) {
        return (int) subs.stream()
                .filter(s -> s.target().equals(target))
                .filter(s -> !s.time().isBefore(span.from()) && !s.time().isAfter(span.until()))
                .count();
    }

    /** Subs taken of each target, in the order of their first. */
    public Map<String, Integer> subsByTarget() {
        Map<String, Integer> counts = new LinkedHashMap<>();
        filtersByTarget().forEach((target, filters) -> counts.put(target, filters.size()));
        return counts;
    }

    /** The filters of the subs of each target, in the order they were taken. */
    public Map<String, Deque<String>> filtersByTarget() {
        Map<String, Deque<String>> filters = new LinkedHashMap<>();
        subs.forEach(s ->
                filters.computeIfAbsent(s.target(), t -> new ArrayDeque<>()).addLast(s.filter()));
        return filters;
    }

    /** Exposure of the kept subs of a target, seconds. */
    public double lightSeconds(String target) {
        return subs.stream()
                .filter(s -> s.kept() && s.target().equals(target))
                .mapToDouble(SubTaken::seconds)
                .sum();
    }

    /** Files of the calibration frames of a set, in order. */
    public List<String> calibrationSet(String set) {
        return all(CalibrationTaken.class).stream()
                .filter(c -> c.set().equals(set))
                .map(CalibrationTaken::file)
                .toList();
    }

    /** The steps of bringing the kit up, each as it was looked at last, in the order in which they were looked at first. */
    public List<StepProven> steps() {
        Map<String, StepProven> last = new LinkedHashMap<>();
        all(StepProven.class).forEach(s -> last.put(s.subject() + "\n" + s.step(), s));
        return List.copyOf(last.values());
    }

    /** The file that shows what an event is about, if it has one. */
    public static Optional<String> fileOf(NightEvent event) {
        if (event instanceof SubTaken sub) {
            return Optional.of(sub.file());
        }
        if (event instanceof FrameSolved solved) {
            return Optional.of(solved.file());
        }
        if (event instanceof CalibrationTaken taken) {
            return Optional.of(taken.file());
        }
        if (event instanceof MasterMade master) {
            return Optional.of(master.file());
        }
        if (event instanceof StackMade stack) {
            return Optional.of(stack.file());
        }
        if (event instanceof AxisMeasured axis) {
            return last(axis.sights().stream()).map(AxisMeasured.Sight::file);
        }
        return Optional.empty();
    }

    private static <T> Optional<T> last(Stream<T> items) {
        return items.reduce((a, b) -> b);
    }
}
