package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.focus.SweepZones.Part;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SweepZonesTest {
    /** Stars whose best focus is a plane and a bowl over the field, steps. */
    private static SweepZones swept(double tiltX, double tiltY, double bowl) {
        Random random = new Random(4);
        SweepZones.Gathering gathering = new SweepZones.Gathering();
        for (int k = -4; k <= 4; k++) {
            double position = 2460 + 40 * k;
            List<Star> stars = new ArrayList<>();
            for (int i = 0; i < 500; i++) {
                double x = 1 + 999 * random.nextDouble();
                double y = 1 + 749 * random.nextDouble();
                double u = x / 500 - 1;
                double v = y / 375 - 1;
                double best = 2462 + tiltX * u + tiltY * v + bowl * (u * u + v * v);
                double size = Math.hypot(1.1, 0.02 * (position - best)) * (1 + 0.02 * random.nextGaussian());
                stars.add(new Star(x, y, 5000, 800, size, 2 * size, 0.2, 0, 60, false, 80, Optional.empty()));
            }
            gathering.add(position, new StarField(1000, 750, stars, 500, 5), 1);
        }
        return gathering.zones().orElseThrow();
    }

    /** By hand: stars of a corner lie 0.75 of the way out on average, so that a plane of 20 steps parts opposite corners by 30. */
    @Test
    void aTiltedSensorPartsTheCorners() {
        SweepZones zones = swept(20, 0, 0);
        assertThat(zones.zones()).extracting(SweepZones.Zone::part).containsExactly(Part.values());
        assertThat(zones.tiltSteps()).isCloseTo(30, within(4.0));
        assertThat(zones.curvatureSteps()).isCloseTo(0, within(3.0));
        assertThat(zones.sentence(4, 6.4)).contains("tilted beyond the critical zone");
    }

    /** By hand: a bowl of 20 at the edges is 2 × 0.75² × 20 + at the corners' mean square, and a little in the middle third. */
    @Test
    void aCurvedFieldHasACompromise() {
        SweepZones zones = swept(0, 0, 20);
        assertThat(zones.curvatureSteps()).isBetween(18.0, 26.0);
        assertThat(zones.tiltSteps()).isLessThan(5);
        assertThat(zones.compromise())
                .isBetween(zones.middle().position() + 8, zones.middle().position() + 24);
        assertThat(zones.sentence(4, 6.4)).contains("the field is curved");
    }

    @Test
    void aFlatFieldIsServedByOnePosition() {
        assertThat(swept(0, 0, 0).sentence(4, 6.4)).contains("one position serves them all");
    }

    @Test
    void withoutStarsInTheCornersNothingIsTold() {
        SweepZones.Gathering gathering = new SweepZones.Gathering();
        gathering.add(2460, new StarField(1000, 750, List.of(), 500, 5), 1);
        assertThat(gathering.zones()).isEmpty();
    }
}
