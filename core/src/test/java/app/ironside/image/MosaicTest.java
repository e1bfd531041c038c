package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;

/** By hand on four by four pixels of RGGB. */
class MosaicTest {
    private static final float[] RAW = {
        10, 1, 20, 2, //
        3, 100, 4, 200,
        30, 5, 40, 6,
        7, 300, 8, 400
    };

    private final Mosaic mosaic = new Mosaic("RGGB");

    @Test
    void coloursByPlace() {
        assertThat(mosaic.at(0, 0)).isEqualTo(Mosaic.Plane.RED);
        assertThat(mosaic.at(1, 0)).isEqualTo(Mosaic.Plane.GREEN);
        assertThat(mosaic.at(0, 3)).isEqualTo(Mosaic.Plane.GREEN);
        assertThat(mosaic.at(3, 1)).isEqualTo(Mosaic.Plane.BLUE);
        assertThatThrownBy(() -> new Mosaic("RGB")).isInstanceOf(IllegalArgumentException.class);
    }

    /** Red at the second pixel of the first row is the mean of 10 and 20; at the second of the second row that of its four corners. */
    @Test
    void whatIsMissingIsTheMeanOfTheNearest() {
        float[] red = mosaic.plane(RAW, 4, 0, Mosaic.Plane.RED);
        assertThat(red[0]).isEqualTo(10);
        assertThat(red[1]).isEqualTo(15);
        assertThat(red[5]).isEqualTo(25);
        float[] green = mosaic.plane(RAW, 4, 0, Mosaic.Plane.GREEN);
        assertThat(green[5]).isEqualTo((1 + 3 + 4 + 5) / 4f);
        assertThat(green[4]).isEqualTo(3);
    }

    /** Bands that begin on an odd row see the same colours. */
    @Test
    void bandsKeepTheirRows() {
        float[] below = java.util.Arrays.copyOfRange(RAW, 4, 12);
        float[] blue = mosaic.plane(below, 4, 1, Mosaic.Plane.BLUE);
        assertThat(blue[1]).isEqualTo(100);
        assertThat(blue[3]).isEqualTo(200);
    }

    @Test
    void aMissingPixelIsPassedOver() {
        float[] raw = RAW.clone();
        raw[0] = Float.NaN;
        assertThat(mosaic.plane(raw, 4, 0, Mosaic.Plane.RED)[1]).isEqualTo(20);
    }
}
