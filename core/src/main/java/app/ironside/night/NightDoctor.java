package app.ironside.night;

import app.ironside.journal.AlertRaised;
import app.ironside.journal.TroubleOver;
import app.ironside.journal.TroubleSeen;
import app.ironside.watch.Alert;
import app.ironside.watch.Case;
import app.ironside.watch.Diagnosis;
import app.ironside.watch.Episodes;
import app.ironside.watch.Finding;
import app.ironside.watch.Watched;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Looks at the night after each sub and each failure, and tells what is wrong, what is over, and what a person should hear of. */
final class NightDoctor {
    private static final Logger LOG = LoggerFactory.getLogger(NightDoctor.class);

    private final NightContext night;
    private final Diagnosis diagnosis;
    private final Episodes episodes = new Episodes(true);
    private Optional<Case> present = Optional.empty();

    NightDoctor(NightContext night) {
        this.night = night;
        this.diagnosis = new Diagnosis(night.kit(), night.observer());
    }

    /** Looks, and tells what is new. */
    void look() {
        if (night.silent()) {
            return;
        }
        Instant now = night.record().now();
        Diagnosis.Found found;
        try {
            found = diagnosis.at(night.record().state(), now);
        } catch (RuntimeException wrong) {
            // Whoever watches over a night must not end it.
            LOG.warn("the diagnosis failed", wrong);
            present = Optional.empty();
            return;
        }
        present = Case.of(found.findings()).stream().findFirst();
        Episodes.News news = episodes.next(found.findings(), now);
        news.cases().forEach(c -> night.record().tell(seen(c, found.subs(), now)));
        for (Episodes.Over over : news.over()) {
            night.record().tell(over(over.seen(), now));
        }
        for (Alert alert : news.alerts()) {
            night.record().tell(new AlertRaised(alert.time(), alert.sentence(), alert.trouble(), alert.wake()));
        }
    }

    /** What is wrong, by the last look. */
    Optional<Case> present() {
        return present;
    }

    /** What is wrong surely enough to act on it. */
    Optional<Case> sure() {
        return present.filter(c -> c.lead().certainty() >= Diagnosis.SURE_ENOUGH);
    }

    static TroubleSeen seen(Case found, List<Watched> subs, Instant now) {
        Finding lead = found.lead();
        List<String> evidence = subs.stream()
                .filter(s -> !s.grade().sub().time().orElse(Instant.EPOCH).isBefore(lead.since()))
                .map(s -> s.grade().sub().name())
                .toList();
        String what = lead.trouble().what();
        String text = String.format(
                Locale.ROOT,
                "%s: %.0f %% sure. %s",
                Character.toUpperCase(what.charAt(0)) + what.substring(1),
                100 * lead.certainty(),
                lead.sentence());
        return new TroubleSeen(
                now,
                text,
                lead.trouble(),
                lead.since(),
                lead.certainty(),
                lead.sentence(),
                found.rivals().stream()
                        .map(r -> new TroubleSeen.Rival(r.trouble(), r.certainty()))
                        .toList(),
                lead.losing(),
                evidence);
    }

    static TroubleOver over(Finding seen, Instant now) {
        Duration lasted = Duration.between(seen.since(), now);
        return new TroubleOver(
                now,
                String.format(
                        Locale.ROOT,
                        "No more of %s: %d min, %d sub%s lost.",
                        seen.trouble().what(),
                        lasted.toMinutes(),
                        seen.framesLost(),
                        seen.framesLost() == 1 ? "" : "s"),
                seen.trouble(),
                lasted,
                seen.framesLost());
    }
}
