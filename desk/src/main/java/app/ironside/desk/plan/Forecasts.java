package app.ironside.desk.plan;

import app.ironside.BadInputException;
import app.ironside.TextFiles;
import app.ironside.desk.parts.Words;
import app.ironside.device.DeviceRole;
import app.ironside.document.NightDraft;
import app.ironside.plan.ClearHours;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.WeatherForecast;
import app.ironside.plan.WeatherTable;
import app.ironside.sky.Interval;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;

/** What is foreseen of the planned night: by a person's table or numbers; what rehearsals invent foresees nothing. */
final class Forecasts {
    private static final WeatherForecast NONE = span -> List.of();

    private WeatherForecast service = NONE;
    private Optional<WeatherTable> own = Optional.empty();
    private String site = "";
    private int read;

    /** Weather that rehearsals invent, or that a service tells. */
    void setService(WeatherForecast next) {
        service = next;
    }

    /** Changes with each forecast that is read. */
    int read() {
        return read;
    }

    /** The person's forecast, if it is for this night and place. */
    Optional<WeatherTable> own(NightDraft draft) {
        return own.filter(t -> t.tellsOf(draft.plan().times().night()))
                .filter(t -> site.equals(draft.file().site().name()));
    }

    /** What costs are reckoned with: of a real night nothing that is invented. */
    WeatherForecast under(NightDraft draft) {
        boolean real = draft.file().kit().equipment().drivers().containsKey(DeviceRole.CAMERA.word());
        return own(draft).<WeatherForecast>map(t -> t).orElse(real && service.isInvented() ? NONE : service);
    }

    /** Clouds that are foreseen. */
    CloudForecast clouds(NightDraft draft) {
        Interval night = draft.plan().times().night();
        return own(draft)
                .map(t -> t.clouds(night))
                .filter(CloudForecast::isKnown)
                .orElseGet(() -> service.isInvented() ? CloudForecast.CLEAR : service.clouds(night));
    }

    /** The clouds that a rehearsal of this plan would meet. */
    CloudForecast invented(NightDraft draft) {
        return service.isInvented() ? service.clouds(draft.plan().times().night()) : CloudForecast.CLEAR;
    }

    /**
     * Reads a table. Waits for a disk.
     *
     * @throws BadInputException if it is none
     */
    static WeatherTable parse(Path csv, NightDraft draft) {
        try (BufferedReader reader = TextFiles.reader(csv, "a forecast")) {
            return WeatherTable.parse(
                    reader,
                    csv.getFileName().toString(),
                    Files.getLastModifiedTime(csv).toInstant(),
                    new WeatherTable.Place(
                            draft.file().site().zone(), draft.file().program().date()));
        } catch (IOException e) {
            throw new UncheckedIOException(csv + " cannot be read", e);
        }
    }

    /** Takes a forecast for the place of a plan; says what is to be said of it, empty if nothing. */
    String take(WeatherTable table, NightDraft draft) {
        own = Optional.of(table);
        site = draft.file().site().name();
        read++;
        return table.tellsOf(draft.plan().times().night())
                ? ""
                : table.source() + " tells nothing of this night; it is used on the night it is for.";
    }

    void forget() {
        own = Optional.empty();
        read++;
    }

    /** Where the forecast comes from and how old it is. */
    String source(NightDraft draft, Instant now) {
        ZoneId zone = draft.file().site().zone();
        return own(draft)
                .map(t -> t.source() + ", " + t.age(now) + ", for "
                        + draft.file().site().name() + " from "
                        + Words.clock(t.span().from(), zone) + " to "
                        + Words.clock(t.span().until(), zone)
                        + (t.tellsOfAir() ? "" : "; it tells of cloud only"))
                .orElse("No forecast of this night and place: nothing is claimed.");
    }

    /** A verdict in hours on a stretch of the night; empty without a forecast. */
    Optional<String> verdict(String target, List<Interval> usable, NightDraft draft) {
        return own(draft)
                .filter(t -> t.clouds(draft.plan().times().night()).isKnown())
                .map(t -> verdict(
                        target, ClearHours.of(usable, t), draft.file().site().zone()));
    }

    /** A block of the plan that lies under cloud for the most part; empty without a forecast. */
    Optional<String> clouded(PlannedBlock block, NightDraft draft) {
        return own(draft)
                .filter(t -> t.clouds(block.span()).isKnown())
                .map(t -> ClearHours.of(List.of(block.span()), t))
                .filter(hours -> hours.knownHours() > 0 && hours.hours() < hours.knownHours() / 2)
                .map(hours -> Words.format(
                        "The block of %s at %s is clear for %.1f of its %.1f h: plan a clear stretch for it, or something else.",
                        block.target().name(),
                        Words.clock(block.span().from(), draft.file().site().zone()),
                        hours.hours(),
                        hours.upHours()));
    }

    private static String verdict(String target, ClearHours hours, ZoneId zone) {
        String of = Words.format(
                "%.1f of the %.1f hours that %s is up and dark are clear", hours.hours(), hours.upHours(), target);
        String unknown = hours.knownHours() < hours.upHours() - 0.2
                ? Words.format("; of %.1f h the forecast says nothing", hours.upHours() - hours.knownHours())
                : "";
        return of
                + hours.longest()
                        .filter(l -> hours.isWorthStarting())
                        .map(l -> ": worth starting at "
                                + Words.clock(hours.clear().get(0).from(), zone) + ", until "
                                + Words.clock(hours.until().orElseThrow(), zone))
                        .orElse(": not worth setting up for")
                + unknown + ".";
    }
}
