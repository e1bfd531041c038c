package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.solve.PlaneTransform;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Rectangles worked out by hand. */
class CropTest {
    private static Footprint shifted(double dx, double dy) {
        return new Footprint(new PlaneTransform(1, 0, dx, 0, 1, dy), 300, 200);
    }

    @Test
    void whatTwoFiltersShareIsKept() {
        // The first filter's sub begins 10 pixels further right, the second's ends 7 rows lower; a kernel of six pixels
        // loses two
        // at the near sides and three at the far ones.
        Crop crop = Crop.of(List.of(List.of(shifted(-10, 0)), List.of(shifted(0, 7))), 300, 200)
                .orElseThrow();
        assertThat(crop).isEqualTo(new Crop(12, 2, 285, 188));
    }

    @Test
    void oneThatLiesAsideCutsNothingAndOneAsideOfManyIsNotHeardOf() {
        List<Footprint> subs = new ArrayList<>();
        for (int i = 0; i < 11; i++) {
            subs.add(shifted(0, 0));
        }
        subs.add(shifted(120, 0));
        assertThat(Crop.of(List.of(subs), 300, 200)).contains(new Crop(0, 0, 300, 200));
        subs.add(shifted(121, 0));
        assertThat(Crop.of(List.of(subs), 300, 200).orElseThrow().width()).isLessThan(185);
    }

    @Test
    void aSubFromTheOtherSideOfThePierCoversAsMuch() {
        Footprint turned = new Footprint(new PlaneTransform(-1, 0, 301, 0, -1, 201), 300, 200);
        assertThat(Crop.of(List.of(List.of(shifted(0, 0), turned)), 300, 200)).contains(new Crop(3, 3, 295, 195));
    }

    @Test
    void fieldsThatDoNotMeetHaveNone() {
        assertThat(Crop.of(List.of(List.of(shifted(0, 0)), List.of(shifted(400, 0))), 300, 200))
                .isEmpty();
    }

    @Test
    void thePlaceInTheSkyGoesWithThePixels() {
        float[] pixels = new float[300 * 200];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = i;
        }
        Frame picture =
                new Frame(300, 200, pixels, Header.EMPTY.with("CRPIX1", 150.5).with("CRPIX2", 100.5));
        Frame cut = new Crop(10, 20, 40, 30).of(picture);
        assertThat(cut.header().number("CRPIX1")).hasValue(140.5);
        assertThat(cut.header().number("CRPIX2")).hasValue(80.5);
        assertThat(cut.pixels()[0]).isEqualTo(20 * 300 + 10);
        assertThat(cut.pixels()[40 * 30 - 1]).isEqualTo(49 * 300 + 49);
    }
}
