package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.Dithered;
import app.ironside.journal.FaultTold;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** A night with a lens on a tracker: pointed, focused and aligned by hands, and nothing guides. */
class ByHandNightTest {
    private static final int SUBS = 4;

    static String night() throws IOException {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(RehearsalTest.demo());
        ObjectNode kit = (ObjectNode) json.readTree(Files.readString(Path.of("..", "examples", "kits", "lark.json")));
        // The middle of the sensor shows all that is looked at here.
        ((ObjectNode) kit.at("/sensor")).put("widthPx", 1200).put("heightPx", 900);
        night.set("kit", kit);
        ObjectNode program = (ObjectNode) night.at("/program");
        ObjectNode target = json.createObjectNode().put("name", "M 33").put("subSeconds", 30);
        target.putArray("filters").add("none");
        target.put("until", "20:30:00").put("mostSubs", SUBS);
        program.putArray("targets").add(target);
        program.put("centreWithinArcsec", 300);
        ((ObjectNode) program.at("/calibrations"))
                .put("darks", 1)
                .put("bias", 1)
                .put("flatsPerFilter", 1);
        return json.writeValueAsString(night);
    }

    @Test
    void handsDoWhatMotorsDo() throws Exception {
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        NightFile file = NightFile.parse(night(), "lark-night.json", wiring.objects());
        wiring.check(file);
        SwiftNight run =
                wiring.swift(file, new JournalInMemory(), SteppedClock::new, NightWatcher.NONE, new NightControl());
        run.engine().run();
        NightState night = run.state();
        assertThat(night.all(FaultTold.class)).isEmpty();
        assertThat(night.ended()).isTrue();
        // The knobs were turned by what was measured, and the truth of it is the observatory's.
        AxisMeasured axis = night.last(AxisMeasured.class).orElseThrow();
        double[] truth = run.observatory().polarErrorArcmin();
        assertThat(Math.hypot(axis.altitudeErrorArcmin(), axis.azimuthErrorArcmin()))
                .isCloseTo(Math.hypot(truth[0], truth[1]), within(1.5));
        assertThat(night.last(TargetCentred.class).orElseThrow().offsetArcsec()).isLessThan(300);
        assertThat(night.all(FocusSwept.class)).hasSize(2);
        assertThat(night.subs()).hasSize(SUBS).allMatch(SubTaken::kept);
        assertThat(night.subs())
                .as("measured sharp, as they are, in a crowd of stars a pixel wide")
                .allMatch(s -> s.measures().hfrPx().orElseThrow() < 1.5)
                .allMatch(s -> s.guiding().equals(GuideFigures.UNKNOWN));
        assertThat(night.all(GuiderCalibrated.class)).isEmpty();
        assertThat(night.all(Dithered.class))
                .as("a hand is not asked to dither")
                .isEmpty();
    }
}
