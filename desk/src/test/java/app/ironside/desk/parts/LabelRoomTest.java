package app.ironside.desk.parts;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class LabelRoomTest {
    @Test
    void noTwoLabelsShareARoom() {
        LabelRoom room = new LabelRoom();
        assertThat(room.take("NGC 2403", 100, 100)).isTrue();
        assertThat(room.take("IC 342", 130, 108)).as("half over the first").isFalse();
        assertThat(room.take("IC 342", 130, 120)).as("a line below").isTrue();
        assertThat(room.take("M 33", 165, 100)).as("to the right of the first").isTrue();
        assertThat(room.take("M 33", 60, 100)).as("to its left").isTrue();
    }
}
