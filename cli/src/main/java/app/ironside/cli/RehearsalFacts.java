package app.ironside.cli;

import app.ironside.journal.AlertRaised;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import app.ironside.journal.TargetCentred;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.Troubles;
import app.ironside.logbook.EventCodec;
import app.ironside.sim.FaultTruth;
import app.ironside.sky.Site;
import app.ironside.wiring.Outcome;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What is said of rehearsed nights. */
final class RehearsalFacts {
    private RehearsalFacts() {}

    /** Why a night that went to its end has no light to show, in the words of what it told last; empty where it has. */
    static String nothingKept(NightState night) {
        if (night.kept() > 0) {
            return "";
        }
        if (!night.subs().isEmpty()) {
            return "none of " + night.subs().size() + " subs was kept: "
                    + night.subs().get(night.subs().size() - 1).text();
        }
        List<FaultTold> faults = night.all(FaultTold.class);
        return "no sub was taken"
                + (faults.isEmpty() ? "" : ": " + faults.get(faults.size() - 1).text());
    }

    static Map<String, Object> of(NightState night, List<FaultTruth> truth, Site site) {
        ZoneId zone = site.zone();
        List<Map<String, Object>> told = night.events().stream()
                .map(e ->
                        Answer.facts("time", Verb.time(e.time(), zone), "kind", EventCodec.kindOf(e), "text", e.text()))
                .toList();
        return Answer.facts(
                "subsPlanned",
                (long) night.subsPlanned(),
                "subsTaken",
                (long) night.subs().size(),
                "subsKept",
                (long) night.kept(),
                "meridianFlips",
                (long) night.all(Flipped.class).size(),
                "focusRuns",
                (long) night.all(FocusSwept.class).size(),
                "recentres",
                (long) recentres(night),
                "lightSeconds",
                night.lightSeconds(),
                "overruled",
                night.all(GateOverruled.class).stream()
                        .map(o -> Answer.facts("stage", o.stage().title(), "sentence", o.text()))
                        .toList(),
                "faults",
                (long) night.all(FaultTold.class).size(),
                "truth",
                truth.stream()
                        .map(f -> Answer.facts(
                                "time",
                                Verb.time(f.from(), zone),
                                "kind",
                                f.kind().word(),
                                "until",
                                Verb.time(f.until(), zone),
                                "sentence",
                                f.kind().sentence() + "."))
                        .toList(),
                "diagnoses",
                Troubles.of(night).stream()
                        .flatMap(t -> diagnoses(t, night, zone).stream())
                        .toList(),
                "alerts",
                night.all(AlertRaised.class).stream()
                        .map(a -> Answer.facts(
                                "time", Verb.time(a.time(), zone), "severity", a.severity(), "sentence", a.text()))
                        .toList(),
                "events",
                told);
    }

    /** A trouble as it stood last, its surest cause first. */
    private static List<Map<String, Object>> diagnoses(Troubles.Lasting lasting, NightState night, ZoneId zone) {
        TroubleSeen last = lasting.last();
        List<TroubleSeen.Rival> causes = new ArrayList<>();
        causes.add(new TroubleSeen.Rival(last.trouble(), last.certainty()));
        causes.addAll(last.others());
        return causes.stream()
                .map(c -> Answer.facts(
                        "time",
                        Verb.time(lasting.since(), zone),
                        "cause",
                        c.trouble().word(),
                        "certainty",
                        Verb.rounded(c.certainty(), 2),
                        "sentence",
                        last.sentence(),
                        "remedy",
                        c.trouble().remedy(),
                        "framesLost",
                        (long) lasting.subsLost(night)))
                .toList();
    }

    /** Centrings beyond the one at each start and flip. */
    private static int recentres(NightState night) {
        int starts = (int) night.all(StageBegan.class).stream()
                .filter(s -> s.stage() == Stage.POINT)
                .count();
        return Math.max(
                0,
                night.all(TargetCentred.class).size()
                        - starts
                        - night.all(Flipped.class).size());
    }

    private static List<Map<String, Object>> groups(List<Outcome.Group> groups) {
        return groups.stream()
                .map(g -> Answer.facts(
                        "of",
                        g.words(),
                        "nights",
                        (long) g.nights(),
                        "lightSeconds",
                        of(g.light()),
                        "subsKept",
                        of(g.kept())))
                .toList();
    }

    /** What many nights gave: the 10th, 50th and 90th percentile. */
    static Map<String, Object> of(Outcome outcome) {
        Map<String, Object> targets = new LinkedHashMap<>();
        outcome.byTarget().forEach((name, p) -> targets.put(name, of(p)));
        return Answer.facts(
                "nights",
                (long) outcome.nights().size(),
                "lightSeconds",
                of(outcome.lightSeconds()),
                "subsKept",
                of(outcome.subsKept()),
                "targets",
                targets,
                "byWeather",
                groups(outcome.byWeather()),
                "bySeeing",
                groups(outcome.bySeeing()),
                "causes",
                outcome.causes().stream()
                        .map(c -> Answer.facts(
                                "cause",
                                c.words(),
                                "nights",
                                (long) c.nights(),
                                "lossPercent",
                                Verb.rounded(100 * c.lossShare(), 1)))
                        .toList(),
                "each",
                outcome.nights().stream()
                        .map(n -> Answer.facts(
                                "seed",
                                n.seed(),
                                "subsTaken",
                                (long) n.taken(),
                                "subsKept",
                                (long) n.kept(),
                                "lightSeconds",
                                n.lightSeconds(),
                                "seeingArcsec",
                                Verb.rounded(n.seeingArcsec(), 2),
                                "cloudedHours",
                                Verb.rounded(n.cloudedHours(), 2),
                                "faults",
                                n.faults().stream()
                                        .map(f -> f.kind().word() + "@" + f.at())
                                        .toList(),
                                "reason",
                                n.reason()))
                        .toList());
    }

    private static Map<String, Object> of(Outcome.Percentiles p) {
        return Answer.facts(
                "p10",
                Verb.rounded(p.tenth(), 1),
                "p50",
                Verb.rounded(p.median(), 1),
                "p90",
                Verb.rounded(p.ninetieth(), 1));
    }
}
