package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Provenance;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Journal;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Noted;
import app.ironside.journal.Stage;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What nights told in words, asked for over all nights. */
class WordsToldTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");
    private static final LocalDate TODAY = LocalDate.of(2026, 11, 28);

    @TempDir
    Path folder;

    private Logbook logbook;

    @BeforeEach
    void twoNights() {
        logbook = Logbook.open(folder);
        night(LocalDate.of(2026, 10, 2), "Wren", "Note: cable laid anew, 100% of the drag is gone");
        night(LocalDate.of(2026, 11, 14), "Heron", "Note: counterweight 2 cm out");
    }

    @AfterEach
    void close() {
        logbook.close();
    }

    private void night(LocalDate date, String kit, String note) {
        NightEntry entry = logbook.begin("a night", "night-" + date, "{}");
        Journal journal = logbook.journal(entry);
        journal.append(new NightStarted(NINE, "t", "Colle Sorbo", kit, date, Provenance.REAL));
        journal.append(new FaultTold(NINE.plusSeconds(60), "A cable drags.", Stage.RUN, Optional.empty()));
        journal.append(new Noted(NINE.plusSeconds(120), note, "Ada"));
    }

    private List<SubSearch.Told> told(String asked) {
        SubSearch search = logbook.search();
        return search.told(Question.parse(
                asked,
                new Question.Vocabulary(
                        List.of(), List.of(), List.of("Wren", "Heron"), List.of("Colle Sorbo"), List.of()),
                TODAY));
    }

    @Test
    void wordsAreFoundInNotesAndTroublesTheNewestFirst() {
        assertThat(told("cable"))
                .extracting(SubSearch.Told::date)
                .containsExactly(LocalDate.of(2026, 11, 14), LocalDate.of(2026, 10, 2), LocalDate.of(2026, 10, 2));
        assertThat(told("cable anew")).singleElement().satisfies(t -> {
            assertThat(t.kit()).isEqualTo("Wren");
            assertThat(t.time()).isEqualTo(NINE.plusSeconds(120));
        });
        assertThat(told("cable heron")).hasSize(1);
        assertThat(told("counterweight in october")).isEmpty();
        assertThat(told("")).hasSize(4);
    }

    /** A person's per cent sign is a per cent sign. */
    @Test
    void signsOfTheQueryLanguageMeanThemselves() {
        assertThat(told("100%")).hasSize(1);
        assertThat(told("1%0")).isEmpty();
        assertThat(told("c_ble")).isEmpty();
    }
}
