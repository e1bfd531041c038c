package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.journal.Flipped;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A whole night over the meridian with what the shipped kits have not: a camera turned by a motor, a mount that chooses its side. */
class OtherMountsNightTest {
    private static final double FRAMED_DEG = 35;

    private static String night() throws Exception {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(CommandsTest.smallNight(60, 3));
        night.withObject("/kit/equipment").put("rotator", true).put("ownFlipDeg", 1.0);
        ((ObjectNode) night.at("/program/targets/0")).put("angleDeg", FRAMED_DEG);
        return json.writeValueAsString(night);
    }

    @Test
    void theCameraIsTurnedAsFramedAndTheMountIsLeftToFlip() throws Exception {
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        NightFile file = NightFile.parse(night(), "other-mounts.json", wiring.objects());
        SwiftNight run =
                wiring.swift(file, new JournalInMemory(), SteppedClock::new, NightWatcher.NONE, new NightControl());
        run.engine().run();
        NightState night = run.state();
        assertThat(night.ended()).isTrue();
        assertThat(night.all(Flipped.class)).hasSize(1);
        List<SubTaken> after = night.subs().stream()
                .filter(s -> s.time().isAfter(night.all(Flipped.class).get(0).time()))
                .toList();
        assertThat(after).isNotEmpty();
        assertThat(night.subs()).hasSizeGreaterThan(after.size());
        for (TargetCentred centred : night.all(TargetCentred.class)) {
            double off = centred.rotationDeg() - FRAMED_DEG;
            assertThat(off - 180 * Math.rint(off / 180)).isCloseTo(0, within(0.5));
        }
    }
}
