package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import javafx.scene.layout.StackPane;
import org.junit.jupiter.api.Test;

/** By hand: a window of 1920 x 1080 holds 1024 x 700 1.54 times. */
class MagnifierTest {
    @Test
    void nothingIsGivenLessRoomThanTheSmallestWindow() {
        assertThat(Magnifier.fitting(125, 1920, 1080)).isEqualTo(1.25);
        assertThat(Magnifier.fitting(175, 1920, 1080)).isCloseTo(1080 / 700.0, within(1e-9));
        assertThat(Magnifier.fitting(175, 2560, 1440)).isEqualTo(1.75);
        assertThat(Magnifier.fitting(175, 900, 600)).isEqualTo(1);
    }

    @Test
    void stepsAreSaidWithWhatTheWindowAllows() {
        Magnifier magnifier = new Magnifier(new StackPane(), 0);
        assertThat(magnifier.take(1280, 800)).isEqualTo(1);
        assertThat(magnifier.step(1)).isEqualTo("Text at 110 %.");
        assertThat(magnifier.take(1280, 800)).isEqualTo(1.1);
        assertThat(magnifier.step(1))
                .isEqualTo("Text at 125 %; this window has room for 114 %. A larger window shows more.");
        assertThat(magnifier.percent()).isEqualTo(125);
        magnifier.step(1);
        magnifier.step(1);
        magnifier.step(1);
        assertThat(magnifier.percent()).isEqualTo(175);
        assertThat(magnifier.step(0)).isEqualTo("Text at 100 %.");
        assertThat(magnifier.step(-1)).isEqualTo("Text at 100 %.");
    }
}
