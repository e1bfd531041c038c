package app.ironside.plan;

import app.ironside.kit.Kit;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;

/**
 * The calibration frames that a program's lights need: one rule for the night that takes them, the budget that counts them, the disk that
 * must hold them, and the sheets that announce them. Darks match exposures, so there is a set for each sub length; flats match filters.
 *
 * @param sets in the order they are taken
 */
public record CalibrationPlan(List<Set> sets) {
    /** Of a flat with its panel (the search for its exposure keeps it near this), and of a bias frame with its download. */
    private static final double SECONDS_PER_FLAT = 6;

    private static final double SECONDS_PER_BIAS = 3;

    /** Until the exposure of a filter's flats is found. */
    private static final double SECONDS_PER_FLAT_SEARCH = 20;

    /** What a set holds. */
    public enum Kind {
        BIAS,
        FLAT,
        DARK
    }

    /**
     * Frames that become one master.
     *
     * @param filter of flats, else empty
     * @param seconds of darks, else 0
     */
    public record Set(Kind kind, String filter, double seconds, int frames) {}

    public CalibrationPlan {
        sets = List.copyOf(sets);
    }

    /** Sets of which none is wanted are left out. */
    public static CalibrationPlan of(Program program) {
        Calibrations wanted = program.calibrations();
        List<Set> sets = new ArrayList<>();
        if (wanted.bias() > 0) {
            sets.add(new Set(Kind.BIAS, "", 0, wanted.bias()));
        }
        if (wanted.flatsPerFilter() > 0) {
            filters(program).forEach(filter -> sets.add(new Set(Kind.FLAT, filter, 0, wanted.flatsPerFilter())));
        }
        if (wanted.darks() > 0) {
            lengths(program).forEach(seconds -> sets.add(new Set(Kind.DARK, "", seconds, wanted.darks())));
        }
        return new CalibrationPlan(sets);
    }

    private static TreeSet<String> filters(Program program) {
        TreeSet<String> filters = new TreeSet<>();
        program.mayTake().forEach(t -> filters.addAll(t.filters()));
        return filters;
    }

    private static TreeSet<Double> lengths(Program program) {
        TreeSet<Double> lengths = new TreeSet<>();
        program.mayTake().forEach(t -> t.goals().forEach(g -> lengths.add(g.subSeconds())));
        return lengths;
    }

    /** Frames in all. */
    public int frames() {
        return sets.stream().mapToInt(Set::frames).sum();
    }

    /** Whether somebody has to put a panel on. */
    public boolean needsPanel() {
        return sets.stream().anyMatch(s -> s.kind() == Kind.FLAT);
    }

    /** How long they take, read-outs included. */
    public Duration duration(Kit kit) {
        double seconds = sets.stream().mapToDouble(s -> seconds(s, kit)).sum();
        return Duration.ofSeconds(Math.round(seconds));
    }

    private static double seconds(Set set, Kit kit) {
        double read = kit.sensor().readoutSeconds();
        return switch (set.kind()) {
            case BIAS -> set.frames() * (SECONDS_PER_BIAS + read);
            case FLAT -> SECONDS_PER_FLAT_SEARCH + set.frames() * (SECONDS_PER_FLAT + read);
            case DARK -> set.frames() * (set.seconds() + read);
        };
    }
}
