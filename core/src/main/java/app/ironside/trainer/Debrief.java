package app.ironside.trainer;

import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.NightState;
import app.ironside.journal.Reacted;
import app.ironside.journal.TroubleSeen;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What an exercise was and how it went, held against three nights under the same sky: one in which nobody did anything, one by the usual
 * policy, and one in which nothing went wrong. All light in minutes.
 *
 * @param points 0 to 100: half for the light that was kept, of the most that policy or patience would have kept; half for naming what it was
 * @param yours light that was kept
 * @param untouched by a night that nobody looked at
 * @param byPolicy by one that Ironside looks after
 * @param faultless by one in which nothing goes wrong
 * @param sentences what happened, when it could be seen and where, what it cost, what was done and what the policy would have done
 */
public record Debrief(
        int points, double yours, double untouched, double byPolicy, double faultless, List<String> sentences) {
    private static final double HALF = 50;

    /** Less light is within what two nights under one sky differ by. */
    private static final double LEAST_COST_MINUTES = 5;

    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT);

    public Debrief {
        sentences = List.copyOf(sentences);
    }

    /** The nights that an exercise is held against. */
    public record Nights(NightState untouched, NightState byPolicy, NightState faultless) {}

    /**
     * A fault as it was.
     *
     * @param until when it was over; the end of time for what stays
     */
    public record Happened(RehearsedFault fault, Instant from, Instant until) {}

    /**
     * Looks back.
     *
     * @param happened in the order of time
     * @param named what the person says it was
     * @param yours the night of the person, as far as it went
     */
    public static Debrief of(
            Exercise exercise,
            List<Happened> happened,
            Set<FaultKind> named,
            NightState yours,
            Nights nights,
            ZoneId zone) {
        double kept = keptMinutes(yours);
        double untouched = keptMinutes(nights.untouched());
        double byPolicy = keptMinutes(nights.byPolicy());
        double faultless = keptMinutes(nights.faultless());
        double best = Math.max(untouched, byPolicy);
        Set<FaultKind> was = happened.stream().map(h -> h.fault().kind()).collect(Collectors.toSet());
        double light = best <= 0 ? 0 : HALF * Math.min(1, kept / best);
        double naming = HALF * naming(was, named);
        List<String> said = new ArrayList<>();
        for (Happened h : happened) {
            said.add(String.format(
                    Locale.ROOT,
                    "At %s: %s.",
                    clock(h.from(), zone),
                    lower(h.fault().kind().sentence())));
            said.add(seen(h, nights.byPolicy(), zone));
        }
        said.add(String.format(
                Locale.ROOT,
                "%s %.0f of 50 points for naming it, %.0f of 50 for the light.",
                named.isEmpty()
                        ? "You did not say what it was:"
                        : named.equals(was) ? "You said so:" : "You said: " + sentences(named) + ":",
                naming,
                light));
        said.add(String.format(
                Locale.ROOT,
                "You kept %.0f min of light; a night that nobody looked at %.0f, one by the usual policy %.0f, without the fault %.0f.",
                kept,
                untouched,
                byPolicy,
                faultless));
        cost(happened, nights, faultless - untouched).ifPresent(said::add);
        said.add(did(yours, happened, zone));
        said.add(policy(nights.byPolicy(), happened, zone));
        if (!exercise.remedy().isBlank()) {
            said.add(exercise.remedy());
        }
        return new Debrief((int) Math.round(light + naming), kept, untouched, byPolicy, faultless, said);
    }

    /** Of what it was, the share that was named; each that was named and was not takes as much off. */
    private static double naming(Set<FaultKind> was, Set<FaultKind> named) {
        long right = named.stream().filter(was::contains).count();
        return Math.max(0, (right - (named.size() - right)) / (double) was.size());
    }

    private static String sentences(Set<FaultKind> kinds) {
        return kinds.stream().map(k -> lower(k.sentence())).sorted().collect(Collectors.joining(", and "));
    }

    /** Light that was kept, minutes. */
    private static double keptMinutes(NightState night) {
        return night.lightSeconds() / 60;
    }

    /** When the first thing went wrong. */
    private static Instant begun(List<Happened> happened) {
        return happened.stream()
                .map(Happened::from)
                .min(Comparator.naturalOrder())
                .orElse(Instant.MIN);
    }

    private static String clock(Instant time, ZoneId zone) {
        return CLOCK.format(time.atZone(zone));
    }

    private static String lower(String sentence) {
        return Character.toLowerCase(sentence.charAt(0)) + sentence.substring(1);
    }

    private static String seen(Happened h, NightState watched, ZoneId zone) {
        List<TroubleSeen> since = watched.all(TroubleSeen.class).stream()
                .filter(t -> !t.time().isBefore(h.from())
                        && t.time()
                                .isBefore(
                                        h.until().equals(Instant.MAX)
                                                ? Instant.MAX
                                                : h.until().plusSeconds(900)))
                .sorted(Comparator.comparing(TroubleSeen::time))
                .toList();
        // Called by its name first; else by what it looked like.
        Optional<TroubleSeen> told = since.stream()
                .filter(t -> t.trouble().word().equals(h.fault().kind().word()))
                .findFirst()
                .or(() -> since.stream().findFirst());
        return told.map(t -> String.format(
                        Locale.ROOT,
                        "It could be seen from %s on, at Run, as %s: %s",
                        clock(t.time(), zone),
                        t.trouble().what(),
                        t.sentence()))
                .orElse("In the subs of such a night it does not show clearly enough to be named.");
    }

    /** Light that goes while nobody acts, for each minute that the faults last. */
    private static Optional<String> cost(List<Happened> happened, Nights nights, double lost) {
        Optional<Instant> end =
                nights.untouched().subs().stream().map(s -> s.exposed().until()).max(Comparator.naturalOrder());
        Optional<Instant> from = happened.stream().map(Happened::from).min(Comparator.naturalOrder());
        if (end.isEmpty() || from.isEmpty() || !from.get().isBefore(end.get()) || lost < LEAST_COST_MINUTES) {
            return Optional.empty();
        }
        Instant until = happened.stream()
                .map(h -> h.until().isAfter(end.get()) ? end.get() : h.until())
                .max(Comparator.naturalOrder())
                .orElseThrow();
        double minutes = Math.max(1, Duration.between(from.get(), until).toSeconds() / 60.0);
        return Optional.of(String.format(
                Locale.ROOT,
                "While nobody acted each minute cost %.1f min of light: %.0f in all.",
                Math.min(1, lost / minutes),
                lost));
    }

    private static String did(NightState yours, List<Happened> happened, ZoneId zone) {
        Instant first = begun(happened);
        List<String> acts = yours.all(CommandTaken.class).stream()
                .filter(c -> !c.given().isBefore(first))
                .map(c -> clock(c.given(), zone) + " " + c.command().words())
                .toList();
        long lostBefore = lostBefore(yours, first, acts.isEmpty() ? Optional.empty() : firstAct(yours, first));
        return acts.isEmpty()
                ? "You did nothing after it."
                : String.format(
                        Locale.ROOT,
                        "You: %s%s.",
                        String.join("; ", acts),
                        lostBefore == 0 ? "" : String.format(Locale.ROOT, ", after %d lost subs", lostBefore));
    }

    private static Optional<Instant> firstAct(NightState yours, Instant from) {
        return yours.all(CommandTaken.class).stream()
                .map(CommandTaken::given)
                .filter(t -> !t.isBefore(from))
                .findFirst();
    }

    private static long lostBefore(NightState yours, Instant from, Optional<Instant> until) {
        return until.map(u -> yours.subs().stream()
                        .filter(s ->
                                !s.kept() && s.time().isAfter(from) && s.time().isBefore(u))
                        .count())
                .orElse(0L);
    }

    private static String policy(NightState watched, List<Happened> happened, ZoneId zone) {
        Instant first = begun(happened);
        List<String> acts = watched.all(Reacted.class).stream()
                .filter(r -> !r.time().isBefore(first))
                .map(r -> clock(r.time(), zone) + " it " + r.reaction().words())
                .toList();
        return acts.isEmpty()
                ? "The usual policy would have done nothing but wait."
                : "The usual policy: " + String.join("; ", acts) + ".";
    }
}
