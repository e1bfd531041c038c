package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.device.Mount;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.NightState;
import app.ironside.journal.Reacted;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.Troubles;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.watch.CheckIns;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * What somebody who comes to the desk at night has to see at once: how many are good, what comes next, when to look again, and what is wrong.
 *
 * @param figures the largest first
 * @param trouble what is wrong now
 */
public record RunGlance(List<Figure> figures, Optional<Banner> trouble) {
    private static final Duration LATELY = Duration.ofHours(1);

    /**
     * A number with its name.
     *
     * @param more what a pointer that rests on it is told; may be empty
     */
    public record Figure(String value, String name, String more) {
        Figure(String value, String name) {
            this(value, name, "");
        }
    }

    /**
     * What is wrong.
     *
     * @param headline the cause, in capitals only where a word begins one
     * @param certainty in words
     * @param seen what was seen
     * @param rivals what else it may be, empty if nothing
     * @param doing what the night did about it, or why it does nothing
     * @param hands what a person can do
     * @param wakes whether it was worth waking somebody
     * @param evidence the first sub that shows it
     */
    public record Banner(
            String headline,
            String certainty,
            String seen,
            String rivals,
            String doing,
            String hands,
            boolean wakes,
            Optional<SubTaken> evidence) {}

    /** Of a moment in a night by a plan. */
    static RunGlance of(Moment moment, NightPlan plan, ZoneId zone) {
        NightState night = moment.night();
        List<Figure> figures = new ArrayList<>();
        figures.add(new Figure(
                night.kept() + " good",
                night.isWatched()
                        ? "of " + night.subs().size() + " that came"
                        : "of " + Math.max(plan.subs(), night.subs().size()) + " planned"));
        Optional<Instant> end = plan.blocks().stream()
                .map(b -> b.span().until())
                .max(Instant::compareTo)
                .filter(e -> e.isAfter(moment.time()) && !night.ended());
        end.ifPresent(e -> figures.add(
                new Figure("end " + Words.clock(e, zone), "in " + Words.span(Duration.between(moment.time(), e)))));
        next(moment, plan, zone).ifPresent(figures::add);
        end.ifPresent(e -> figures.add(worth(night, plan, moment.time())));
        if (end.isPresent()) {
            List<CheckIns.CheckIn> looks = CheckIns.of(plan, night, moment.time());
            if (!looks.isEmpty()) {
                figures.add(new Figure(
                        "look " + Words.clock(looks.get(0).time(), zone),
                        looks.get(0).why(),
                        looks.stream()
                                .map(l -> Words.clock(l.time(), zone) + "  " + l.why())
                                .collect(Collectors.joining("\n", "Times to look; else nobody is needed:\n", ""))));
            }
        }
        return new RunGlance(figures, Troubles.present(night).map(t -> banner(t, night, zone)));
    }

    /** What comes next: a flip, or another target. */
    private static Optional<Figure> next(Moment moment, NightPlan plan, ZoneId zone) {
        Instant now = moment.time();
        boolean before = moment.night()
                .last(SubTaken.class)
                .flatMap(s -> s.circumstances().pierSide())
                .map(s -> s == Mount.PierSide.WEST)
                .orElse(true);
        for (PlannedBlock block : plan.blocks()) {
            if (block.span().contains(now) && block.flip().isPresent() && before) {
                Instant flip = block.flip().get();
                return Optional.of(new Figure(
                        "flip " + Words.clock(flip, zone),
                        flip.isAfter(now) ? "in " + Words.span(Duration.between(now, flip)) : "due, after this sub"));
            }
            if (block.span().from().isAfter(now)) {
                return Optional.of(new Figure(
                        "next " + Words.clock(block.span().from(), zone),
                        block.target().name() + ", in "
                                + Words.span(Duration.between(now, block.span().from()))));
            }
        }
        return Optional.empty();
    }

    /** What going on is worth, by what is planned still and by how much of the last hour was good. */
    private static Figure worth(NightState night, NightPlan plan, Instant now) {
        List<SubTaken> lately = night.subs().stream()
                .filter(s -> s.time().isAfter(now.minus(LATELY)))
                .toList();
        double good =
                lately.isEmpty() ? 1 : lately.stream().filter(SubTaken::kept).count() / (double) lately.size();
        double hours = 0;
        for (PlannedBlock block : plan.blocks()) {
            double whole = Math.max(1, block.span().duration().toSeconds());
            Instant from = block.span().from().isAfter(now) ? block.span().from() : now;
            double left =
                    Math.max(0, Duration.between(from, block.span().until()).toSeconds());
            hours += block.hoursOfLight() * left / whole;
        }
        return new Figure(
                Words.format("%.1f h", good * hours),
                "still to gain",
                lately.isEmpty()
                        ? "by the plan"
                        : Words.format("by the plan, if as much is good as in the last hour: %.0f %%", 100 * good));
    }

    private static Banner banner(Troubles.Lasting lasting, NightState night, ZoneId zone) {
        TroubleSeen last = lasting.last();
        List<Reacted> did = night.all(Reacted.class).stream()
                .filter(r -> r.trouble() == lasting.trouble() && !r.time().isBefore(lasting.since()))
                .toList();
        boolean wakes = night.all(AlertRaised.class).stream()
                .anyMatch(a -> a.wake()
                        && a.trouble() == lasting.trouble()
                        && !a.time().isBefore(lasting.since()));
        int lost = lasting.subsLost(night);
        String since = "since " + Words.clock(lasting.since(), zone)
                + (lost == 0 ? ", no sub lost" : lost == 1 ? ", 1 sub lost" : ", " + lost + " subs lost");
        String rivals = last.others().stream()
                .map(r -> Words.format("%s %.0f %%", r.trouble().what(), 100 * r.certainty()))
                .collect(Collectors.joining(", "));
        return new Banner(
                Words.capital(last.trouble().what()),
                Words.format("%.0f %% sure, ", 100 * last.certainty()) + since,
                last.sentence(),
                rivals.isEmpty() ? "" : "Or: " + rivals + ".",
                did.isEmpty()
                        ? last.losing()
                                ? "The night goes on and looks after each sub."
                                : "Nothing is lost to it yet; the night goes on."
                        : Words.clock(did.get(did.size() - 1).time(), zone) + "  "
                                + did.get(did.size() - 1).text(),
                last.trouble().remedy(),
                wakes,
                last.evidence().stream().findFirst().flatMap(file -> night.subs().stream()
                        .filter(s -> s.file().equals(file))
                        .findFirst()));
    }
}
