package app.ironside.document;

import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.NightAccount;
import app.ironside.journal.NightState;
import app.ironside.journal.Reacted;
import app.ironside.journal.StackMade;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.journal.Troubles;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * A night told afterwards on paper: what was kept, how the subs went, what the time went into, what went wrong and what was done, the picture,
 * and what to do next time.
 *
 * @param file as it was begun
 * @param plan what was promised
 * @param night what happened
 * @param picture a stack as PNG, if there is one
 */
public record NightReport(NightFile file, NightPlan plan, NightState night, Optional<byte[]> picture) {
    /** Every so many subs a shift is enough for hot pixels to go (common practice). */
    private static final int SPARSE_DITHER = 3;

    /**
     * Of a night that is known.
     *
     * @param folder where its stacks lie, whose last picture is taken; empty for none
     */
    public static NightReport of(NightFile file, NightState night, Optional<Path> folder) {
        return new NightReport(
                file, NightPlanner.plan(file.site(), file.kit(), file.program()), night, picture(night, folder));
    }

    /** The last stack, as it was stretched when it was made. */
    private static Optional<byte[]> picture(NightState night, Optional<Path> folder) {
        return night.last(StackMade.class)
                .flatMap(s -> folder.map(f -> f.resolve(s.picture())))
                .filter(Files::isRegularFile)
                .map(Sheet::read);
    }

    /**
     * Writes it whole or not at all: as PDF, or as a page where the name ends in .html.
     *
     * @throws app.ironside.BadInputException if nothing can be written there
     */
    public void write(Path to) {
        Sheet.write(to, html());
    }

    /** The night as XHTML without anything outside it. */
    public String html() {
        Sheet h = new Sheet(title());
        h.paragraph(verdict());
        h.paragraph(circumstances());
        h.picture(new NightChart(file.site(), plan).png(), "altitudes of the targets through the night");
        filters(h);
        if (!night.subs().isEmpty()) {
            h.heading("The subs");
            h.picture(
                    new SubsChart(file.site(), night.subs()).png(),
                    "star size, star count, sky and guiding of the subs by time");
            h.paragraph("Full: kept. Open: not kept. Hours are local.");
        }
        time(h);
        troubles(h);
        picture.ifPresent(png -> {
            h.beginWhole();
            h.heading("The picture");
            h.picture(png, "the stack");
            h.endWhole();
            night.all(StackMade.class).forEach(s -> h.paragraph(s.text()));
        });
        nextTime(h);
        return h.html();
    }

    /** The same as PDF. */
    public void pdf(OutputStream out) throws IOException {
        Sheet.pdf(html(), out);
    }

    private String title() {
        return "The night of " + file.program().date() + ", " + file.site().name() + ", "
                + file.kit().name();
    }

    private String clock(Instant time) {
        return file.site().clock(time);
    }

    private String verdict() {
        return String.format(
                Locale.ROOT,
                "%d of %d subs kept, %.1f hours of light; %d were planned. %d focus runs, %d flips.",
                night.kept(),
                night.subs().size(),
                night.lightSeconds() / 3600,
                night.subsPlanned(),
                night.all(FocusSwept.class).size(),
                night.all(Flipped.class).size());
    }

    private String circumstances() {
        return String.format(
                Locale.ROOT,
                "Dark for %.1f h, %.1f of them without the Moon, which was %.0f %% lit.%s",
                plan.times().darkHours(),
                plan.times().moonlessDarkHours(),
                100 * plan.times().moonIlluminatedFraction(),
                file.training().isPresent() ? " An exercise, rehearsed." : "");
    }

    private void filters(Sheet h) {
        record Sum(int taken, int kept, double seconds) {}
        Map<List<String>, Sum> sums = new LinkedHashMap<>();
        for (SubTaken s : night.subs()) {
            sums.merge(
                    List.of(s.target(), s.filter()),
                    new Sum(1, s.kept() ? 1 : 0, s.kept() ? s.seconds() : 0),
                    (a, b) -> new Sum(a.taken + b.taken, a.kept + b.kept, a.seconds + b.seconds));
        }
        if (sums.isEmpty()) {
            h.paragraph("No sub was taken.");
            return;
        }
        h.heading("What was kept");
        h.table("target", "filter", "kept", "light");
        sums.forEach((key, sum) -> h.row(
                key.get(0),
                key.get(1),
                sum.kept + " of " + sum.taken,
                String.format(Locale.ROOT, "%.1f h", sum.seconds / 3600)));
        h.endTable();
    }

    private void time(Sheet h) {
        NightAccount.of(night).ifPresent(account -> {
            h.heading("Where the time went");
            h.table();
            h.row("light that was kept", minutes(account.kept()));
            account.lost().forEach((what, lost) -> h.row("lost to " + what, minutes(lost)));
            h.row("focus runs", minutes(account.focus()));
            h.row("dithers with their settling", minutes(account.dither()));
            h.row("pointing, settling, reading out, waiting", minutes(account.other()));
            h.endTable();
        });
    }

    private static String minutes(Duration time) {
        return time.toMinutes() >= 60
                ? String.format(Locale.ROOT, "%d h %02d min", time.toHours(), time.toMinutesPart())
                : String.format(Locale.ROOT, "%d min", time.toMinutes());
    }

    private void troubles(Sheet h) {
        List<Troubles.Lasting> all = Troubles.of(night);
        h.heading("What went wrong");
        if (all.isEmpty()) {
            h.paragraph("Nothing that was seen.");
            return;
        }
        h.table("since", "what", "subs lost", "what was seen", "what the night did");
        for (Troubles.Lasting t : all) {
            h.row(
                    clock(t.since()),
                    t.trouble().what(),
                    Integer.toString(t.subsLost(night)),
                    t.last().sentence(),
                    String.join("; ", reactions(t)));
        }
        h.endTable();
    }

    private List<String> reactions(Troubles.Lasting t) {
        return night.all(Reacted.class).stream()
                .filter(r -> r.trouble() == t.trouble() && !r.time().isBefore(t.since()))
                .map(r -> clock(r.time()) + " it " + r.reaction().words())
                .toList();
    }

    /** From what went wrong and hands can mend, gates that were overruled, and time that went elsewhere than into light. */
    private void nextTime(Sheet h) {
        List<String> said = new ArrayList<>();
        Troubles.of(night).stream()
                .map(Troubles.Lasting::trouble)
                .distinct()
                .filter(Trouble::handsHelp)
                .forEach(t -> said.add("After " + t.what() + ": " + t.remedy()));
        night.all(GateOverruled.class).forEach(g -> said.add("Passed by its rule and not by its limit: " + g.text()));
        NightAccount.of(night)
                .filter(a -> file.program().ditherEvery() < SPARSE_DITHER)
                .filter(a -> a.dither().compareTo(a.kept().dividedBy(8)) > 0)
                .ifPresent(a -> said.add(String.format(
                        Locale.ROOT,
                        "Dithers took %s beside %s of light: one every third sub would give back %d min.",
                        minutes(a.dither()),
                        minutes(a.kept()),
                        Math.round(a.dither().toMinutes()
                                * (1 - file.program().ditherEvery() / (double) SPARSE_DITHER)))));
        h.beginWhole();
        h.heading("Next time");
        if (said.isEmpty()) {
            h.paragraph("Nothing was found that hands could mend.");
        }
        h.table();
        said.forEach(h::ticked);
        h.endTable();
        h.endWhole();
    }
}
