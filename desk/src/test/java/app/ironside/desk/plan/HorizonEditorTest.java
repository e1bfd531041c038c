package app.ironside.desk.plan;

import static app.ironside.desk.Headless.on;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.desk.Headless;
import app.ironside.sky.Horizon;
import app.ironside.sky.Horizontal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.event.EventType;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * The skyline under the mouse. By hand, of the editor's own measures: 412 by 118 px leave 360 px for the azimuths, one a degree, from 40 px
 * on, and 60 px for the altitudes, one a degree, up from 94 px.
 */
class HorizonEditorTest {
    private final List<Horizon> changes = new ArrayList<>();
    private HorizonEditor editor;

    @BeforeAll
    static void startTheToolkit() throws Exception {
        Headless.start();
    }

    @BeforeEach
    void make() {
        editor = on(() -> {
            HorizonEditor made = new HorizonEditor(changes::add);
            made.setMinSize(0, 0);
            made.resize(412, 118);
            made.show(new Horizon(List.of(new Horizontal(90, 10), new Horizontal(270, 20))), 2, Optional.empty());
            made.layout();
            return made;
        });
    }

    private void mouse(EventType<MouseEvent> type, double azimuth, double altitude, MouseButton button, int clicks) {
        on(() -> {
            double x = 40 + azimuth;
            double y = 94 - altitude;
            editor.fireEvent(new MouseEvent(
                    type, x, y, x, y, button, clicks, false, false, false, false, true, false, false, true, false, true,
                    null));
            return true;
        });
    }

    private Horizon last() {
        return changes.get(changes.size() - 1);
    }

    @Test
    void aPointIsDragged() {
        mouse(MouseEvent.MOUSE_PRESSED, 91, 9, MouseButton.PRIMARY, 1);
        mouse(MouseEvent.MOUSE_DRAGGED, 120, 32.3, MouseButton.PRIMARY, 1);
        mouse(MouseEvent.MOUSE_RELEASED, 120, 32.3, MouseButton.PRIMARY, 1);
        assertThat(last().points()).contains(new Horizontal(120, 32.5), new Horizontal(270, 20));
        mouse(MouseEvent.MOUSE_DRAGGED, 200, 50, MouseButton.PRIMARY, 1);
        assertThat(changes).as("a mouse that holds nothing moves nothing").hasSize(1);
    }

    @Test
    void whatIsDraggedOutStaysAtTheEdge() {
        mouse(MouseEvent.MOUSE_PRESSED, 90, 10, MouseButton.PRIMARY, 1);
        mouse(MouseEvent.MOUSE_DRAGGED, -30, 80, MouseButton.PRIMARY, 1);
        assertThat(last().points()).contains(new Horizontal(0, 60));
        mouse(MouseEvent.MOUSE_DRAGGED, 500, -10, MouseButton.PRIMARY, 1);
        assertThat(last().points()).contains(new Horizontal(359, 0));
    }

    @Test
    void twoClicksAddAPointAndTheOtherButtonRemovesOne() {
        mouse(MouseEvent.MOUSE_PRESSED, 180, 40, MouseButton.PRIMARY, 1);
        assertThat(changes).as("one click on the sky does nothing").isEmpty();
        mouse(MouseEvent.MOUSE_PRESSED, 180, 40, MouseButton.PRIMARY, 2);
        assertThat(last().points()).hasSize(3);
        assertThat(last().altitudeDeg(180)).isCloseTo(40, within(1e-9));
        mouse(MouseEvent.MOUSE_PRESSED, 90, 10, MouseButton.SECONDARY, 1);
        mouse(MouseEvent.MOUSE_PRESSED, 270, 20, MouseButton.SECONDARY, 1);
        assertThat(last().points()).containsExactly(new Horizontal(180, 40));
        mouse(MouseEvent.MOUSE_PRESSED, 180, 40, MouseButton.SECONDARY, 1);
        assertThat(last().points()).as("the last point stays").hasSize(1);
    }
}
