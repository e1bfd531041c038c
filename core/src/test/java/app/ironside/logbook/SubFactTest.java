package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Provenance;
import app.ironside.gear.GearChange;
import app.ironside.journal.AnySub;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.Journal;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Verdict;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What stood when a sub was taken, by hand. */
class SubFactTest {
    private static final Instant NINE = Instant.parse("2026-11-14T21:00:00Z");
    private static final LocalDate TODAY = LocalDate.of(2026, 12, 1);

    @TempDir
    Path folder;

    private static AxisMeasured axis(int minute, double total) {
        return new AxisMeasured(
                NINE.plusSeconds(60L * minute),
                "axis",
                total,
                0,
                total,
                0.1,
                60,
                0,
                false,
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                "",
                List.of());
    }

    private static void begin(Journal journal, Instant at, LocalDate date) {
        journal.append(new NightStarted(at, "t", "Colle Sorbo", "Wren", date, Provenance.REAL));
    }

    @Test
    void thePolarErrorIsTheOneMeasuredLast() throws Exception {
        try (Logbook logbook = Logbook.open(folder)) {
            Journal journal = logbook.journal(logbook.begin("a night", "night-1", "{}"));
            begin(journal, NINE, LocalDate.of(2026, 11, 14));
            Verdict good = new Verdict(true, "good", "good");
            journal.append(AnySub.of(NINE.plusSeconds(60), "M 33", "L", 30, good));
            journal.append(axis(2, 7.5));
            journal.append(AnySub.of(NINE.plusSeconds(180), "M 33", "L", 60, good));
            journal.append(axis(4, 1.25));
            journal.append(AnySub.of(NINE.plusSeconds(300), "M 33", "L", 90, good));
            SubSearch search = logbook.search();
            Question all = Question.parse("", search.vocabulary(), TODAY);
            assertThat(search.points(all, SubFact.EXPOSURE, SubFact.POLAR, 3))
                    .as("the first sub came before it was measured")
                    .extracting(SubSearch.Point::x, SubSearch.Point::y)
                    .containsExactly(tuple(60.0, 7.5), tuple(90.0, 1.25));
            assertThat(search.points(all, SubFact.EXPOSURE, SubFact.SEASON, 3))
                    .extracting(SubSearch.Point::y)
                    .containsOnly(318.0);
            assertThat(search.points(all, SubFact.EXPOSURE, SubFact.FOCUS_AGE, 3))
                    .isEmpty();
            assertThat(search.firstNight()).hasValue(LocalDate.of(2026, 11, 14));
        }
    }

    /** New Moon on 2000 January 6 at 18:14, full on January 21 at 4:40 (Meeus, Astronomical Algorithms, table 49.A): half a day at most. */
    @Test
    void theMoonIsLitByItsMeanPhase() throws Exception {
        try (Logbook logbook = Logbook.open(folder)) {
            Journal journal = logbook.journal(logbook.begin("a night", "night-1", "{}"));
            Instant dark = Instant.parse("2000-01-06T18:14:00Z");
            Instant full = Instant.parse("2000-01-21T04:40:00Z");
            begin(journal, dark, LocalDate.of(2000, 1, 6));
            Verdict good = new Verdict(true, "good", "good");
            journal.append(AnySub.of(dark, "M 33", "L", 30, good));
            journal.append(AnySub.of(dark.plus(Duration.between(dark, full).dividedBy(2)), "M 33", "L", 60, good));
            journal.append(AnySub.of(full, "M 33", "L", 90, good));
            SubSearch search = logbook.search();
            List<SubSearch.Point> lit =
                    search.points(Question.parse("", search.vocabulary(), TODAY), SubFact.EXPOSURE, SubFact.MOON, 3);
            assertThat(lit.get(0).y()).isCloseTo(0, within(0.005));
            assertThat(lit.get(1).y()).isCloseTo(0.5, within(0.06));
            assertThat(lit.get(2).y()).isCloseTo(1, within(0.005));
        }
    }

    @Test
    void focusOfBeforeANewZeroIsNotComparedWithFocusOfNow() {
        List<SubSearch.OfNight> nights = List.of(
                new SubSearch.OfNight(1, LocalDate.of(2026, 10, 1), "Wren", SubSearch.Count.NONE),
                new SubSearch.OfNight(2, LocalDate.of(2026, 11, 1), "Wren", SubSearch.Count.NONE),
                new SubSearch.OfNight(3, LocalDate.of(2026, 10, 1), "Heron", SubSearch.Count.NONE));
        List<SubSearch.Point> points = List.of(
                new SubSearch.Point(1, 5, 2400), new SubSearch.Point(2, 5, 1100), new SubSearch.Point(3, 5, 900));
        List<GearChange> changes = List.of(
                new GearChange(LocalDate.of(2026, 11, 1), "Wren", GearChange.Kind.FOCUSER, ""),
                new GearChange(LocalDate.of(2026, 11, 1), "Heron", GearChange.Kind.CLEANED, ""));
        SameGear focus = SameGear.of(points, nights, changes, SubFact.TEMPERATURE, SubFact.FOCUS);
        assertThat(focus.points()).extracting(SubSearch.Point::night).containsExactly(2L, 3L);
        assertThat(focus.sentence())
                .hasValue("1 sub of before is left out: 2026-11-01, Wren: focuser exchanged or its zero set.");
        assertThat(SameGear.of(points, nights, changes, SubFact.DAY, SubFact.FOCUS)
                        .points())
                .hasSize(3);
        assertThat(SameGear.of(points, nights, changes, SubFact.TEMPERATURE, SubFact.SIZE)
                        .leftOut())
                .isZero();
    }
}
