package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.entry;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.journal.AnySub;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Stage;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubRegraded;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleOver;
import app.ironside.journal.Verdict;
import app.ironside.sky.Interval;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Sums by hand. */
class AccountTest {
    private static final Instant NINE = Instant.parse("2026-11-14T21:00:00Z");
    private static final UnaryOperator<String> PLAIN = n -> n.replace(" ", "");

    @TempDir
    Path folder;

    private static SubTaken sub(int minute, String target, String filter, Verdict verdict) {
        return AnySub.of(NINE.plusSeconds(60L * minute), target, filter, 900, verdict);
    }

    @Test
    void lightThatWasLostIsToldByWhatTookIt() throws Exception {
        try (Logbook logbook = Logbook.open(folder)) {
            NightEntry night = logbook.begin("a night", "night-1", "{}");
            Journal journal = logbook.journal(night);
            journal.append(
                    new NightStarted(NINE, "t", "Colle Sorbo", "Wren", LocalDate.of(2026, 11, 14), Provenance.WATCHED));
            journal.append(sub(15, "M 33", "L", new Verdict(true, "good", "good")));
            journal.append(sub(30, "M33", "L", new Verdict(true, "good", "good")));
            journal.append(sub(45, "M 33", "R", new Verdict(false, "cloud took 60 %", "cloud")));
            journal.append(sub(60, "M 33", "R", new Verdict(false, "cloud took 80 %", "cloud")));
            journal.append(sub(75, "M 33", "R", new Verdict(false, "stars 3 px long", "trailed")));
            journal.append(sub(90, "M 33", "R", new Verdict(false, "told before causes were")));
            // The rule book thinks better of one, and a person of another.
            journal.append(new SubRegraded(
                    NINE.plusSeconds(6000),
                    "t",
                    AnySub.file(NINE.plusSeconds(3600)),
                    new Verdict(true, "good", "good")));
            journal.append(new SubRegraded(
                    NINE.plusSeconds(6000),
                    "t",
                    AnySub.file(NINE.plusSeconds(900)),
                    Verdict.byHand(false, "left out by hand", "Ada")));

            Account account = logbook.harvest().account();
            assertThat(account.nights()).singleElement().satisfies(n -> assertThat(n.real())
                    .isTrue());
            assertThat(account.hoursKept()).isEqualTo(0.5, within(1e-9));
            assertThat(account.hoursRejected()).isEqualTo(1.0, within(1e-9));
            assertThat(account.lost())
                    .containsOnly(
                            entry("cloud", 0.25), entry("trailed", 0.25), entry("", 0.25), entry("by-hand", 0.25));
            // The same, asked in words.
            SubSearch search = logbook.search();
            Question.Vocabulary known = search.vocabulary();
            LocalDate today = LocalDate.of(2026, 11, 27);
            SubSearch.Found red = search.find(Question.parse("R since november", known, today));
            assertThat(red.all()).isEqualTo(new SubSearch.Count(4, 1, 1.0, 0.25));
            assertThat(red.byCause()).containsOnlyKeys("cloud", "trailed", "");
            SubSearch.Found both = search.find(Question.parse("R L out wren", known, today));
            assertThat(both.all().subs()).isEqualTo(4);
            assertThat(both.byFilter().get("L").subs()).isEqualTo(1);
            assertThat(both.nights()).singleElement().satisfies(n -> assertThat(n.kit())
                    .isEqualTo("Wren"));
            assertThat(search.find(Question.parse("before 2026-11-14", known, today))
                            .all()
                            .subs())
                    .isZero();
            assertThat(search.points(Question.parse("R", known, today), SubFact.HOUR, SubFact.KEPT, 4))
                    .extracting(p -> Math.round(60 * p.x()) / 60.0, SubSearch.Point::y)
                    .containsExactlyInAnyOrder(
                            tuple(21.75, 0.0), tuple(22.0, 1.0), tuple(22.25, 0.0), tuple(22.5, 0.0));
            // Both ends of a stretch must hold; two filters are alternatives.
            assertThat(count(search, "in 2025")).isZero();
            assertThat(count(search, "in 2026")).isEqualTo(6);
            assertThat(count(search, "over 800 s under 850 s")).isZero();
            assertThat(count(search, "over 800 s under 950 s L R")).isEqualTo(6);
            written(search, Question.parse("R", known, today));
            assertThat(account.kept("M 33", PLAIN)).containsOnly(entry("L", 0.25), entry("R", 0.25));
        }
    }

    private static int count(SubSearch search, String text) {
        return search.find(Question.parse(text, search.vocabulary(), LocalDate.of(2026, 11, 27)))
                .all()
                .subs();
    }

    /** Read back by readers that are not ours: the JDK's XML reader, and the FITS library that reads frames. */
    private void written(SubSearch search, Question question) throws Exception {
        Path csv = folder.resolve("subs.csv");
        assertThat(SubTable.write(search, question, csv)).isEqualTo(4);
        List<String> lines = Files.readAllLines(csv);
        assertThat(lines).hasSize(5);
        assertThat(lines.get(0)).startsWith("night,site,kit,origin,time,target,filter,exposure,file,keep,cause");
        assertThat(lines.get(1)).startsWith("2026-11-14,Colle Sorbo,Wren,by-folder,2026-11-14T21:45:00Z,M 33,R,900.0,");
        Path vot = folder.resolve("subs.vot");
        SubTable.write(search, question, vot);
        var document = javax.xml.parsers.DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(vot.toFile());
        assertThat(document.getElementsByTagName("TR").getLength()).isEqualTo(4);
        Path fits = folder.resolve("subs.fits");
        SubTable.write(search, question, fits);
        try (nom.tam.fits.Fits table = new nom.tam.fits.Fits(fits.toFile())) {
            table.readHDU();
            assertThat(((nom.tam.fits.BinaryTableHDU) table.readHDU()).getNRows())
                    .isEqualTo(4);
        }
        assertThatThrownBy(() -> SubTable.write(search, question, folder.resolve("subs.ods")))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining(".csv, .vot or .fits");
    }

    @Test
    void nightsThatWereRehearsedCountOnlyWhereThereIsNoOther() {
        Account both = new Account(List.of(night("2026-03-01", true, 2), night("2026-02-01", false, 7)));
        assertThat(both.counted().hoursKept()).isEqualTo(2);
        assertThat(new Account(List.of(night("2026-02-01", false, 7))).counted().hoursKept())
                .isEqualTo(7);
        assertThat(both.before(LocalDate.parse("2026-03-01")).nights()).hasSize(1);
    }

    /** Four clear nights of an hour and more over 122 days, of 30.4375 a month. */
    @Test
    void clearNightsAMonthComeFromTheRecord() {
        Account account = new Account(List.of(
                night("2026-01-01", true, 3),
                night("2026-01-01", true, 1),
                night("2026-02-01", true, 0.4),
                night("2026-02-11", true, 1),
                night("2026-03-11", true, 5),
                night("2026-04-11", true, 2)));
        assertThat(account.clearNightsAMonth(LocalDate.parse("2026-05-03")).orElseThrow())
                .isCloseTo(4 / (122 / 30.4375), within(1e-9));
        assertThat(account.clearNightsAMonth(LocalDate.parse("2026-02-20"))).isEqualTo(Optional.empty());
    }

    /** By hand: two hours are planned in each of three nights and a quarter of one is taken. */
    @Test
    void whyPlannedLightWasNotTakenIsToldByTheJournal() throws Exception {
        try (Logbook logbook = Logbook.open(folder)) {
            planned(
                    logbook,
                    1,
                    new TroubleOver(NINE.plusSeconds(5000), "t", Trouble.CLOUD, Duration.ofMinutes(70), 4),
                    new TroubleOver(NINE.plusSeconds(5000), "t", Trouble.WIND, Duration.ofMinutes(20), 1),
                    new NightEnded(NINE.plusSeconds(9000), "t", 1, 1));
            planned(
                    logbook,
                    2,
                    new CommandTaken(
                            NINE.plusSeconds(2000),
                            "t",
                            new Command.EndNight(),
                            "Ada",
                            "tired",
                            NINE.plusSeconds(1990),
                            true,
                            Stage.RUN),
                    new NightEnded(NINE.plusSeconds(9000), "t", 1, 1));
            planned(logbook, 3);
            assertThat(logbook.harvest().account().notTaken())
                    .containsOnly(
                            entry("cloud", 1.75),
                            entry("an end by hand", 1.75),
                            entry("a night that was broken off", 1.75));
        }
    }

    private static void planned(Logbook logbook, int number, NightEvent... more) {
        NightEntry night = logbook.begin("night " + number, "night-" + number, "{}");
        Journal journal = logbook.journal(night);
        journal.append(new NightStarted(
                NINE, "t", "Colle Sorbo", "Wren", LocalDate.of(2026, 11, 10 + number), Provenance.REAL));
        Interval span = new Interval(NINE, NINE.plusSeconds(7200));
        journal.append(new BlockPlanned(NINE, "t", "M 33", 8, 900, span, Optional.empty(), NINE, 77, 8, 6, 90));
        journal.append(sub(15, "M 33", "L", new Verdict(true, "good", "good")));
        for (NightEvent event : more) {
            journal.append(event);
        }
    }

    private static Account.Night night(String date, boolean real, double hours) {
        return new Account.Night(
                LocalDate.parse(date),
                "Colle Sorbo",
                "Wren",
                real,
                hours,
                hours,
                Map.of("M 33", Map.of("L", hours)),
                Map.of(),
                "");
    }

    /** Two nights looked at the heater's lead, one of them found it loose; the same word of another subject is no lesson. */
    @Test
    void lessonsTellWhatTheyFound() throws Exception {
        try (Logbook logbook = Logbook.open(folder)) {
            for (boolean firm : new boolean[] {true, false}) {
                Journal journal = logbook.journal(logbook.begin("a night", "night-" + firm, "{}"));
                journal.append(new StepProven(
                        NINE, "lesson: heater lead, by hand.", "lesson", "heater lead", "by hand", true));
                journal.append(
                        new StepProven(NINE.plusSeconds(9), "lesson: heater lead.", "lesson", "heater lead", "", firm));
                journal.append(new StepProven(NINE, "mount: heater lead.", "mount", "heater lead", "", false));
            }
            assertThat(logbook.habits().lessons()).containsExactly(entry("heater lead", new Habits.LessonRecord(2, 1)));
        }
    }

    /** Two dates in October, one of them twice and neither with an hour, and a clear one in November that lost more than it planned for. */
    @Test
    void monthByMonth() {
        Account account = new Account(List.of(
                night(LocalDate.of(2026, 10, 3), 4, 0.9, 0.6, Map.of("dew", 0.3), "cloud"),
                night(LocalDate.of(2026, 10, 3), 1, 0.5, 0.5, Map.of(), ""),
                night(LocalDate.of(2026, 10, 20), 2, 0, 0, Map.of(), "trouble"),
                night(LocalDate.of(2026, 11, 14), 6, 5.5, 4.0, Map.of("cloud", 1.0, "trailed", 0.5), "cloud")));
        Account.Month november = account.months().get(0);
        Account.Month october = account.months().get(1);
        assertThat(account.months()).hasSize(2);
        assertThat(november).isEqualTo(new Account.Month(YearMonth.of(2026, 11), 1, 1, 4.0, 2.0, "cloud"));
        assertThat(october.month()).isEqualTo(YearMonth.of(2026, 10));
        assertThat(october.used()).isEqualTo(2);
        assertThat(october.clear()).isZero();
        assertThat(october.hoursKept()).isEqualTo(1.1, within(1e-9));
        assertThat(october.hoursLost()).isEqualTo(5.9, within(1e-9));
        assertThat(october.lostFor()).isEqualTo("cloud");
    }

    private static Account.Night night(
            LocalDate date, double planned, double taken, double kept, Map<String, Double> lost, String reason) {
        return new Account.Night(
                date, "Colle Sorbo", "Wren", true, planned, taken, Map.of("M 33", Map.of("L", kept)), lost, reason);
    }
}
