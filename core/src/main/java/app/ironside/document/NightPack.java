package app.ironside.document;

import app.ironside.Csv;
import app.ironside.FileNames;
import app.ironside.Printable;
import app.ironside.kit.Exposure;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.ShutterRun;
import app.ironside.plan.TargetWindow;
import app.ironside.sky.Sexagesimal;
import java.io.IOException;
import java.io.OutputStream;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import net.fortuna.ical4j.data.CalendarOutputter;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.ComponentList;
import net.fortuna.ical4j.model.DateTime;
import net.fortuna.ical4j.model.component.VAlarm;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.Action;
import net.fortuna.ical4j.model.property.CalScale;
import net.fortuna.ical4j.model.property.Description;
import net.fortuna.ical4j.model.property.ProdId;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.Version;

/** A night to take along: on paper, in the calendar, as a table, as a file that Ironside reads. */
public record NightPack(NightFile file, NightPlan plan, NightBudget budget, ReadyList steps) {
    private static final Duration ALARM_BEFORE = Duration.ofMinutes(10);

    private ZoneId zone() {
        return file.site().zone();
    }

    private String clock(Instant time) {
        return file.site().clock(time);
    }

    private String clock(Optional<Instant> time) {
        return time.map(this::clock).orElse("never");
    }

    // ---- paper
    // -------------------------------------------------------------------------------------------------------

    /** The night on one or two sheets, as XHTML without anything outside it. */
    public String html() {
        Sheet h = new Sheet(title());
        h.paragraph(skyLine());
        budget.warnings().forEach(h::warning);
        budget.reminders().forEach(h::paragraph);
        program(h);
        chart(h);
        shutter(h);
        visits(h);
        steps(h);
        costs(h);
        return h.html();
    }

    private String title() {
        return file.program().date() + ", " + file.site().name() + ", "
                + file.kit().name();
    }

    private String skyLine() {
        String moon = String.format(
                Locale.ROOT,
                "Moon %.0f %% lit, sets %s, rises %s.",
                100 * plan.times().moonIlluminatedFraction(),
                clock(plan.times().moonset().stream().findFirst()),
                clock(plan.times().moonrise().stream().findFirst()));
        return String.format(
                Locale.ROOT,
                "Sunset %s, dark %s to %s (%.1f h, %.1f h without the Moon), sunrise %s. %s",
                clock(plan.times().sunset()),
                clock(plan.times().astronomicalDusk()),
                clock(plan.times().astronomicalDawn()),
                plan.times().darkHours(),
                plan.times().moonlessDarkHours(),
                clock(plan.times().sunrise()),
                moon);
    }

    private void program(Sheet h) {
        h.heading("Program");
        h.table("target", "from", "until", "flip", "subs", "filters", "highest", "Moon", "place, J2000");
        for (PlannedBlock b : plan.blocks()) {
            h.row(
                    b.target().name(),
                    clock(b.span().from()),
                    clock(b.span().until()),
                    b.flip().map(this::clock).orElse("none"),
                    Integer.toString(b.subs()),
                    b.words(),
                    String.format(
                            Locale.ROOT,
                            "%.0f° at %s",
                            b.window().transitAltitudeDeg(),
                            clock(b.window().transit())),
                    String.format(Locale.ROOT, "%.0f° away", b.window().moonSeparationDeg()),
                    Sexagesimal.text(b.target().position()));
        }
        h.endTable();
    }

    private void chart(Sheet h) {
        h.picture(new NightChart(file.site(), plan).png(), "altitudes of the targets through the night");
        h.paragraph("Thick: taken. Thin below it: the skyline in that direction. Grey: dark. Hours are local.");
    }

    /** For a camera that counts by itself: what it is set to, and when. */
    private void shutter(Sheet h) {
        h.heading("For a remote shutter");
        h.table("target", "filter", "begin", "frames", "length", "gap", "over at", "");
        for (ShutterRun run : ShutterRun.of(plan, file.kit())) {
            h.row(
                    run.target(),
                    run.filter(),
                    clock(run.from()),
                    Integer.toString(run.frames()),
                    String.format(Locale.ROOT, "%.0f s", run.seconds()),
                    run.gapSeconds() + " s",
                    clock(run.until()),
                    run.afterFlip() ? "after the flip" : "");
        }
        h.endTable();
    }

    private void visits(Sheet h) {
        h.heading("What needs hands");
        h.table();
        for (NightBudget.Visit v : budget.visits()) {
            h.row(clock(v.at()), String.join("; ", v.jobs()));
        }
        h.row(clock(budget.bedtime()), "done");
        h.endTable();
    }

    private void steps(Sheet h) {
        h.beginWhole();
        h.heading("Steps, in this order");
        h.table();
        for (ReadyStep s : steps.steps()) {
            h.ticked(
                    s.subject(),
                    s.what()
                            + s.after()
                                    .map(o -> " (after " + o.subject() + ": " + o.reason() + ")")
                                    .orElse(""));
        }
        h.endTable();
        h.endWhole();
    }

    private void costs(Sheet h) {
        h.heading("Costs");
        h.table();
        h.row("files", String.format(Locale.ROOT, "%d, %.1f GB", budget.files(), budget.gigabytes()));
        budget.power()
                .ifPresent(p -> h.row(
                        "power",
                        String.format(
                                        Locale.ROOT,
                                        "%.0f W idle, %.0f W peak of %.0f W",
                                        p.idleWatts(),
                                        p.peakWatts(),
                                        p.supplyWatts())
                                + p.batteryHours()
                                        .map(b -> String.format(Locale.ROOT, ", battery %.1f h", b))
                                        .orElse("")));
        budget.load().ifPresent(l -> h.row("load", String.format(Locale.ROOT, "%.1f of %.1f kg", l.kg(), l.limitKg())));
        budget.dew().stream()
                .filter(d -> d.risk() != app.ironside.plan.Dew.Risk.DRY)
                .findFirst()
                .ifPresent(d -> h.row(
                        d.risk().words() + (budget.weatherInvented() ? ", invented weather" : ""),
                        "from " + clock(d.time())));
        h.row(
                "untracked",
                String.format(
                        Locale.ROOT,
                        "%.1f s for a trail of one pixel at declination 0",
                        Exposure.untrackedSeconds(file.kit(), 0, 1)));
        h.endTable();
    }

    /** The same sheets as PDF. */
    public void pdf(OutputStream out) throws IOException {
        Sheet.pdf(html(), out);
    }

    // ---- calendar, table, program
    // ------------------------------------------------------------------------------------

    /** The night and each visit with an alarm ten minutes before, as iCalendar (RFC 5545). */
    public String calendar() {
        Calendar calendar = new Calendar();
        calendar.getProperties().add(new ProdId("-//Ironside//Night//EN"));
        calendar.getProperties().add(Version.VERSION_2_0);
        calendar.getProperties().add(CalScale.GREGORIAN);
        String night = file.program().date() + "-" + FileNames.plain(file.site().name(), "");
        int number = 0;
        for (NightBudget.Visit v : budget.visits()) {
            String what = String.join("; ", v.jobs());
            VEvent event = event(v.at(), v.at().plus(ALARM_BEFORE), what, night + "-" + number++);
            VAlarm alarm = new VAlarm(ALARM_BEFORE.negated());
            alarm.getProperties().add(Action.DISPLAY);
            alarm.getProperties().add(new Description(Printable.line(what)));
            calendar.getComponents().add(new VEvent(event.getProperties(), new ComponentList<>(List.of(alarm))));
        }
        for (PlannedBlock b : plan.blocks()) {
            calendar.getComponents()
                    .add(event(
                            b.span().from(),
                            b.span().until(),
                            b.target().name() + ", " + b.subs() + " subs",
                            night + "-" + number++));
        }
        StringWriter out = new StringWriter();
        try {
            new CalendarOutputter().output(calendar, out);
        } catch (IOException e) {
            throw new UncheckedIOException("a calendar in memory cannot fail to be written", e);
        }
        return out.toString();
    }

    private VEvent event(Instant from, Instant until, String what, String uid) {
        VEvent event = new VEvent(time(from), time(until), Printable.line(what));
        event.getDateStamp().setDateTime(time(budget.setUpFrom()));
        event.getProperties().add(new Uid(uid + "@" + URI.create("urn:ironside").getSchemeSpecificPart()));
        return event;
    }

    private static DateTime time(Instant instant) {
        DateTime time = new DateTime(instant.toEpochMilli());
        time.setUtc(true);
        return time;
    }

    /** Altitude, azimuth and airmass of each target every ten minutes. */
    public String altitudesCsv() {
        StringBuilder csv = new StringBuilder("time,target,altitude_deg,azimuth_deg,airmass\n");
        for (PlannedBlock b : plan.blocks()) {
            for (TargetWindow.Sample s : b.window().samples()) {
                csv.append(String.format(
                        Locale.ROOT,
                        "%s,%s,%.3f,%.3f,%s\n",
                        s.time().atZone(zone()).toOffsetDateTime(),
                        Csv.cell(b.target().name()),
                        s.altitudeDeg(),
                        s.azimuthDeg(),
                        s.airmass() > 0 ? String.format(Locale.ROOT, "%.3f", s.airmass()) : ""));
            }
        }
        return csv.toString();
    }

    /** The night as the file that the engine and {@code rehearse} take. */
    public String program() {
        return file.text();
    }

    /** What the pack can be written as. */
    public List<String> formats() {
        return List.of("pdf", "html", "ics", "csv", "json");
    }
}
