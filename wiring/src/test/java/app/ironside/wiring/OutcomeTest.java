package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.document.FaultKind;
import app.ironside.sim.FaultTruth;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** By hand: thirty nights whose light follows from cloud and air by a rule that is known. */
class OutcomeTest {
    private static Outcome thirty() {
        List<ManyNights.Night> nights = new ArrayList<>();
        for (int i = 0; i < 30; i++) {
            double clouded = i % 3 * 2; // 0, 2 and 4 hours, ten nights each
            int kept = 100 - 20 * (i % 3);
            nights.add(new ManyNights.Night(
                    i, 100, 100, kept, 60.0 * kept, Map.of("M 33", kept), 2 + i / 10.0, clouded, List.of(), ""));
        }
        return new Outcome(nights);
    }

    @Test
    void nightsAreToldByTheirCloud() {
        List<Outcome.Group> groups = thirty().byWeather();
        assertThat(groups).extracting(Outcome.Group::nights).containsExactly(10, 10, 10);
        assertThat(groups).extracting(g -> g.kept().median()).containsExactly(100.0, 80.0, 60.0);
        assertThat(groups).extracting(g -> g.light().median()).containsExactly(6000.0, 4800.0, 3600.0);
        assertThat(groups.get(1).words()).isEqualTo("cloud up to 2 h");
    }

    /** 2.0 to 4.9″ in steps of a tenth: thirds end at 2.97 and 3.93″. */
    @Test
    void nightsAreToldByTheirAir() {
        List<Outcome.Group> groups = thirty().bySeeing();
        assertThat(groups).extracting(Outcome.Group::nights).containsExactly(10, 10, 10);
        assertThat(groups)
                .extracting(Outcome.Group::words)
                .containsExactly("seeing up to 3.0″", "seeing 3.0 to 3.9″", "seeing above 3.9″");
    }

    @Test
    void whatNoNightHasIsNoGroup() {
        assertThat(new Outcome(thirty().nights().subList(0, 1)).byWeather()).hasSize(1);
    }

    @Test
    void theTruthLiesBesideTheJournal(@TempDir Path folder) throws Exception {
        Instant from = Instant.parse("2026-11-14T22:40:00Z");
        TruthFile.write(folder, List.of());
        assertThat(folder.resolve("truth.json")).doesNotExist();
        TruthFile.write(folder, List.of(new FaultTruth(FaultKind.DEW, from, from.plusSeconds(3600), 0.7)));
        JsonNode dew = new ObjectMapper()
                .readTree(folder.resolve("truth.json").toFile())
                .get(0);
        assertThat(dew.get("kind").asText()).isEqualTo("dew");
        assertThat(dew.get("from").asText()).isEqualTo("2026-11-14T22:40:00Z");
        assertThat(dew.get("until").asText()).isEqualTo("2026-11-14T23:40:00Z");
        assertThat(dew.get("strength").asDouble()).isEqualTo(0.7);
    }
}
