package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.judge.SubLook;
import app.ironside.judge.SubLooks;
import app.ironside.sky.Interval;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;

/** Makes disk and journal agree after a stop. */
final class FrameAdoption {
    private final NightContext night;
    private final NightRecord record;
    private final SubJudge judge;

    FrameAdoption(NightContext night, SubJudge judge) {
        this.night = night;
        this.record = night.record();
        this.judge = judge;
    }

    /** After a stop: removes what is half-written, and takes in subs that were on the disk but not yet in the journal. */
    void reconcile() {
        List<String> removed = night.archive().removeUnfinished();
        Set<String> known =
                record.state().subs().stream().map(SubTaken::file).collect(Collectors.toCollection(HashSet::new));
        List<String> found = new ArrayList<>(night.archive().lights());
        found.removeAll(known);
        for (String file : found) {
            adopt(file);
        }
        if (!removed.isEmpty() || !found.isEmpty()) {
            record.tell(new StepProven(
                    record.now(),
                    found.size() + " finished subs were taken in, " + removed.size() + " unfinished files removed.",
                    "disk",
                    "after a stop",
                    "",
                    true));
        }
    }

    /** A sub that was finished and not yet told: it keeps its own time and is measured and judged as the others were. */
    private void adopt(String file) {
        Frame frame = FitsFiles.read(night.archive().resolve(file));
        Header header = frame.header();
        String target = header.text("OBJECT").orElse("unknown");
        String filter = header.text("FILTER").orElse("unknown");
        double seconds = header.exposureSeconds().orElse(0);
        boolean full = frame.width() == night.kit().sensor().widthPx();
        StarField field = night.finder().find(frame);
        night.archive().keepStars(file, field);
        Duration length = Duration.ofMillis(Math.round(1000 * seconds));
        Instant opened = header.start().orElse(record.now().minus(length));
        SubMeasures measures = SubFacts.of(
                field,
                frame,
                night.kit().sensor().offsetAdu(),
                () -> judge.starLight(SubLooks.series(target, filter, seconds, frame.width()), field),
                night.gauge().slopeAdu(frame),
                full,
                night.workers());
        SubLook look = judge.looks()
                .of(
                        SubLooks.series(target, filter, seconds, frame.width()),
                        file,
                        opened.plus(length.dividedBy(2)),
                        seconds,
                        measures,
                        OptionalDouble.empty());
        Verdict verdict = judge.judge(look);
        record.tell(new SubTaken(
                opened.plus(length),
                String.format(Locale.ROOT, "A sub of %s %s %.0f s, finished before the stop,", target, filter, seconds),
                target,
                filter,
                seconds,
                new Interval(opened, opened.plus(length)),
                file,
                full,
                false,
                false,
                Set.of(),
                true,
                measures,
                new SubCircumstances(
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        header.number("FOCTEMP"),
                        whole(header.number("FOCUSPOS")),
                        header.text("PIERSIDE").flatMap(Mount.PierSide::named),
                        cooling(header)),
                GuideFigures.UNKNOWN,
                OptionalDouble.empty(),
                Optional.empty(),
                verdict));
        SubFacts.tellRegraded(record, judge, look.series());
    }

    private static OptionalInt whole(OptionalDouble number) {
        return number.isPresent() ? OptionalInt.of((int) Math.round(number.getAsDouble())) : OptionalInt.empty();
    }

    private static Optional<SubCircumstances.Cooling> cooling(Header header) {
        OptionalDouble sensor = header.number("CCD-TEMP");
        OptionalDouble wanted = header.number("SET-TEMP");
        return sensor.isPresent() && wanted.isPresent()
                ? Optional.of(new SubCircumstances.Cooling(
                        sensor.getAsDouble(), wanted.getAsDouble(), OptionalDouble.empty()))
                : Optional.empty();
    }
}
