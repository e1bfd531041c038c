package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.kit.Kit;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarSource;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.mockito.Mockito;

class FramingTest {
    private static final Kit WREN = Examples.kit("wren");
    private static final Kit HERON = Examples.kit("heron");
    private static final Equatorial NGC891 = new Equatorial(35.6392, 42.3489);

    /** By hand: 2 atan(2800 × 6.3e-3 / 2 / 432) = 2.3392°; Field = 57.3 × size / focal length (common practice) gives 2.340°. */
    @Test
    void fieldByHand() {
        assertThat(WREN.fieldWidthDeg()).isCloseTo(2.3392, within(1e-4));
        assertThat(WREN.fieldWidthDeg()).isCloseTo(57.3 * 17.64 / 432, within(2e-3));
    }

    /** Laws: with angle 0 north is up and east left; turned by 90°, east is up. */
    @Test
    void northUpEastLeft() {
        Framing plain = new Framing(WREN, NGC891, 0);
        Equatorial north = new Equatorial(35.6392, 42.8489);
        Equatorial east = new Equatorial(36.2, 42.3489);
        assertThat(plain.place(north).orElseThrow().yDeg()).isCloseTo(0.5, within(1e-3));
        assertThat(plain.place(east).orElseThrow().xDeg()).isNegative();
        Framing turned = new Framing(WREN, NGC891, 90);
        assertThat(turned.place(east).orElseThrow().yDeg()).isPositive();
        assertThat(turned.place(north).orElseThrow().xDeg()).isCloseTo(0.5, within(1e-3));
    }

    /** Law: place and at are inverses, and the corners lie on the edge. */
    @Test
    void thereAndBack() {
        Framing frame = new Framing(WREN, new Equatorial(10, 80), 33);
        Framing.Point p = new Framing.Point(0.7, -0.4);
        Framing.Point back = frame.place(frame.at(p)).orElseThrow();
        assertThat(back.xDeg()).isCloseTo(0.7, within(1e-9));
        assertThat(back.yDeg()).isCloseTo(-0.4, within(1e-9));
        for (Equatorial corner : frame.corners()) {
            assertThat(Math.abs(frame.place(corner).orElseThrow().xDeg()))
                    .isCloseTo(WREN.fieldWidthDeg() / 2, within(1e-9));
        }
    }

    /** By hand: panels of width w with overlap o have middles w (1 − o) apart; four of them cover w (2 − o). */
    @Test
    void mosaicByHand() {
        Framing frame = new Framing(WREN, NGC891, 20);
        List<Framing> panels = frame.mosaic(2, 2, 0.2);
        assertThat(panels).hasSize(4);
        double apart = panels.get(0).centre().separationDeg(panels.get(1).centre());
        assertThat(apart).isCloseTo(0.8 * WREN.fieldWidthDeg(), within(2e-3));
        for (Framing panel : panels) {
            assertThat(panel.contains(frame.centre(), 0)).isTrue();
        }
        assertThat(frame.coverOf(ellipse(60, 60, 0), 0.2).panels()).isEqualTo(1);
        assertThat(frame.coverOf(ellipse(150, 150, 0), 0.2).panels()).isGreaterThan(1);
    }

    /** Law: a guide field keeps its place in the frame, so after the flip it lies on the other side of the target. */
    @Test
    void guideFieldOnBothSidesOfTheMeridian() {
        StarSource stars = Mockito.mock(StarSource.class);
        Framing frame = new Framing(HERON, NGC891, 10);
        double offset = Math.toDegrees(17.5 / 1420);
        Equatorial before = frame.at(new Framing.Point(0, offset));
        Equatorial after = frame.at(new Framing.Point(0, -offset));
        CatalogueStar first = new CatalogueStar("a", before, 10.5, 0.6);
        CatalogueStar second = new CatalogueStar("b", after, 11.5, 0.6);
        Mockito.when(stars.stars(Mockito.any(), Mockito.anyDouble(), Mockito.anyDouble()))
                .thenReturn(List.of(second, first));
        assertThat(frame.guideField(stars, 12).orElseThrow().stars()).containsExactly(first);
        assertThat(frame.flipped().guideField(stars, 12).orElseThrow().stars()).containsExactly(second);
        Framing best = frame.bestGuideAngle(stars, 12).orElseThrow();
        assertThat(best.angleDeg()).isEqualTo(10);
        assertThat(new Framing(WREN, NGC891, 0).guideField(stars, 12)).isEmpty();
    }

    /** Common practice: about magnitude 11 is usual for guiding in a few seconds; a longer exposure reaches fainter. */
    @Test
    void guideLimit() {
        double two = Framing.guideLimitMagnitude(WREN, 2, 20.9);
        assertThat(two).isCloseTo(11, within(0.5));
        assertThat(Framing.guideLimitMagnitude(WREN, 4, 20.9)).isGreaterThan(two);
        assertThat(Framing.guideLimitMagnitude(HERON, 2, 20.9)).isGreaterThan(two);
    }

    /** Published: the NGC catalogue has NGC 898 and NGC 914 within a degree of NGC 891; a shift takes a companion in and keeps the subject. */
    @Test
    void companions() {
        DeepSkyCatalogue catalogue = DeepSkyCatalogue.load();
        Framing frame = new Framing(WREN, NGC891, 0);
        assertThat(frame.objects(catalogue).stream().map(o -> o.id())).contains("NGC 891", "NGC 898", "NGC 914");
        for (Framing.Companion companion : new Framing(HERON, NGC891, 0).companions(catalogue, 14)) {
            Framing shifted = new Framing(HERON, companion.centre(), 0);
            assertThat(shifted.contains(companion.object().position(), 0)).isTrue();
            assertThat(shifted.contains(NGC891, 0.05)).isTrue();
        }
    }

    private static DeepSkyObject ellipse(double length, double width, double angleDeg) {
        return new DeepSkyObject(
                "X",
                "",
                "",
                DeepSkyObject.Kind.SPIRAL,
                new Equatorial(10, 41),
                Optional.empty(),
                length,
                width,
                Optional.of(angleDeg));
    }

    /**
     * By hand: Wren's field is 2.34° × 1.75°. An ellipse of 189′ × 62′ needs 3.50° × 1.15° with the crop margin: along the frame's long side
     * 1 + ceil((3.50 − 2.34) / (2.34 × 0.85)) = 2 panels, one row; as a circle three rows of two.
     */
    @Test
    void aLongGalaxyTakesTwoPanelsAlongItsAxis() {
        Framing frame = new Framing(Examples.kit("wren"), new Equatorial(10.68, 41.27), 0);
        DeepSkyObject long35 = ellipse(189, 62, 35);
        assertThat(frame.fewestPanels(long35, 0.15).panels()).isEqualTo(2);
        Framing across = new Framing(Examples.kit("wren"), new Equatorial(10.68, 41.27), 80);
        assertThat(across.coverOf(long35, 0.15).panels()).isEqualTo(4);
        assertThat(across.fewestPanels(long35, 0.15).panels()).isEqualTo(2);
        double angle = across.fewestPanels(long35, 0.15).angleDeg();
        assertThat(Math.abs(Math.sin(Math.toRadians(angle - 35))))
                .as("the frame's long side lies along the galaxy")
                .isGreaterThan(0.8);
        assertThat(frame.coverOf(ellipse(189, 189, 35), 0.15).panels()).isEqualTo(6);
        assertThat(app.ironside.sky.DeepSkyCatalogue.load()
                        .find("NGC 891")
                        .orElseThrow()
                        .positionAngleDeg())
                .contains(22.0);
    }

    /** By hand for Heron: 17.5 mm off, half of 1096 px × 2.9 µm is 1.59 mm, half of 2822 px × 4.63 µm 6.53 mm: 9.38 mm are clear. */
    @Test
    void thePrismStandsClearOfTheSensor() {
        assertThat(Framing.prismClearanceMm(Examples.kit("heron")).orElseThrow())
                .isCloseTo(9.38, within(0.01));
        assertThat(Framing.prismAtLongSide(Examples.kit("heron"))).isTrue();
        assertThat(Framing.prismClearanceMm(Examples.kit("wren"))).isEmpty();
    }
}
