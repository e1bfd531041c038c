package app.ironside;

import app.ironside.device.Camera;
import app.ironside.device.Device;
import app.ironside.device.Mount;
import app.ironside.device.Operation;
import java.util.List;
import java.util.Optional;
import org.mockito.Answers;
import org.mockito.Mockito;

/** Devices that do at once whatever they are told. */
public final class Mocks {
    private static final Camera.Abilities CAMERA =
            new Camera.Abilities(4, true, Optional.empty(), Optional.empty(), List.of(), true, true);

    private Mocks() {}

    public static <T extends Device> T device(Class<T> port) {
        return Mockito.mock(port, call -> {
            Class<?> type = call.getMethod().getReturnType();
            if (type == Operation.class) {
                return Operation.done(port.getSimpleName(), call.getMethod().getName());
            } else if (type == Mount.Abilities.class) {
                return new Mount.Abilities(false, true, true);
            } else if (type == Camera.Abilities.class) {
                return CAMERA;
            } else if (type == Device.Link.class) {
                return Device.Link.CONNECTED;
            } else if (call.getMethod().getName().equals("arrivesOn")) {
                return call.getArgument(1);
            }
            return Answers.RETURNS_DEFAULTS.answer(call);
        });
    }
}
