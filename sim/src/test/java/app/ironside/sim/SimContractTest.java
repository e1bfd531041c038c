package app.ironside.sim;

import app.ironside.Workers;
import app.ironside.contract.CameraContract;
import app.ironside.contract.FocuserContract;
import app.ironside.contract.MountContract;
import app.ironside.contract.PanelContract;
import app.ironside.contract.RotatorContract;
import app.ironside.contract.WheelContract;
import app.ironside.device.Camera;
import app.ironside.device.FilterWheel;
import app.ironside.device.FlatPanel;
import app.ironside.device.Focuser;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.device.Rotator;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.Equatorial;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Nested;

/** The simulated devices do what is asked of any. */
class SimContractTest {
    /** M 33 stands high in the south-east, NGC 2403 in the north-east. */
    private static final Equatorial M33 = new Equatorial(23.46, 30.66);

    private static final Equatorial NGC_891 = new Equatorial(35.64, 62.35);

    private final SteppedClock clock = new SteppedClock(TestNight.NIGHT);

    private SimulatedObservatory observatory(Optional<Double> ownFlipDeg) {
        try {
            String text = Files.readString(Path.of("..", "examples", "kits", "wren.json"))
                    // A contract is not about pixels.
                    .replace("\"widthPx\": 2800, \"heightPx\": 2100", "\"widthPx\": 560, \"heightPx\": 420")
                    .replace(
                            "\"equipment\": {",
                            "\"equipment\": {\"rotator\": true, "
                                    + ownFlipDeg
                                            .map(d -> "\"ownFlipDeg\": " + d + ", ")
                                            .orElse(""));
            Kit kit = KitFile.parse(text, "wren.json");
            return new SimulatedObservatory(
                    TestNight.SITE, kit, SimSettings.DEFAULT, TestNight.SKY, clock, TestNight.NIGHT, Workers.ALL_CORES);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private abstract class SimMountContract extends MountContract {
        private final SimulatedObservatory observatory;

        SimMountContract(SimulatedObservatory observatory) {
            this.observatory = observatory;
        }

        @Override
        protected Mount device() {
            return observatory.devices().mount();
        }

        @Override
        protected NightClock clock() {
            return clock;
        }

        @Override
        protected void pull(boolean out) {
            observatory.pull("mount", out);
        }

        @Override
        protected Equatorial place() {
            return M33;
        }

        @Override
        protected Equatorial otherPlace() {
            return NGC_891;
        }
    }

    @Nested
    class AMount extends SimMountContract {
        AMount() {
            super(observatory(Optional.empty()));
        }
    }

    @Nested
    class AMountThatChoosesItsSide extends SimMountContract {
        AMountThatChoosesItsSide() {
            super(observatory(Optional.of(2.0)));
        }
    }

    @Nested
    class AFocuser extends FocuserContract {
        private final SimulatedObservatory observatory = observatory(Optional.empty());

        @Override
        protected Focuser device() {
            return observatory.devices().focuser();
        }

        @Override
        protected NightClock clock() {
            return clock;
        }

        @Override
        protected void pull(boolean out) {
            observatory.pull("focuser", out);
        }
    }

    @Nested
    class AWheel extends WheelContract {
        private final SimulatedObservatory observatory = observatory(Optional.empty());

        @Override
        protected FilterWheel device() {
            return observatory.devices().wheel();
        }

        @Override
        protected NightClock clock() {
            return clock;
        }

        @Override
        protected void pull(boolean out) {
            observatory.pull("filter wheel", out);
        }
    }

    @Nested
    class ARotator extends RotatorContract {
        private final SimulatedObservatory observatory = observatory(Optional.empty());

        @Override
        protected Rotator device() {
            return observatory.devices().rotator().orElseThrow();
        }

        @Override
        protected NightClock clock() {
            return clock;
        }

        @Override
        protected void pull(boolean out) {
            observatory.pull("rotator", out);
        }
    }

    @Nested
    class APanel extends PanelContract {
        private final SimulatedObservatory observatory = observatory(Optional.empty());

        @Override
        protected FlatPanel device() {
            return observatory.devices().panel();
        }

        @Override
        protected NightClock clock() {
            return clock;
        }

        @Override
        protected void pull(boolean out) {
            observatory.pull("flat panel", out);
        }
    }

    @Nested
    class ACamera extends CameraContract {
        private final SimulatedObservatory observatory = observatory(Optional.empty());

        @Override
        protected Camera device() {
            return observatory.devices().guideCamera().orElseThrow();
        }

        @Override
        protected NightClock clock() {
            return clock;
        }

        @Override
        protected void pull(boolean out) {
            observatory.pull("guide camera", out);
        }
    }
}
