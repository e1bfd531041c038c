package app.ironside.sky;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A stretch of time, from (included) until (excluded). */
public record Interval(Instant from, Instant until) {
    public Interval {
        if (until.isBefore(from)) {
            throw new IllegalArgumentException("until " + until + " is before from " + from);
        }
    }

    public Duration duration() {
        return Duration.between(from, until);
    }

    /** Length in hours. */
    public double hours() {
        return duration().toMillis() / 3_600_000.0;
    }

    public boolean contains(Instant time) {
        return !time.isBefore(from) && time.isBefore(until);
    }

    /** The common part of two intervals, if they have one of more than no length. */
    public Optional<Interval> intersection(Interval other) {
        Instant start = from.isAfter(other.from) ? from : other.from;
        Instant end = until.isBefore(other.until) ? until : other.until;
        return start.isBefore(end) ? Optional.of(new Interval(start, end)) : Optional.empty();
    }

    /** What is left of it beside another: its parts before and after, those that have a length. */
    public List<Interval> without(Interval other) {
        List<Interval> left = new ArrayList<>();
        intersection(new Interval(Instant.MIN, other.from)).ifPresent(left::add);
        intersection(new Interval(other.until, Instant.MAX)).ifPresent(left::add);
        return left;
    }

    /** All common parts of two sets of intervals. */
    public static List<Interval> intersections(List<Interval> some, List<Interval> others) {
        List<Interval> common = new ArrayList<>();
        for (Interval a : some) {
            for (Interval b : others) {
                a.intersection(b).ifPresent(common::add);
            }
        }
        return common;
    }

    /** Sum of the lengths in hours. */
    public static double hours(List<Interval> intervals) {
        return intervals.stream().mapToDouble(Interval::hours).sum();
    }
}
