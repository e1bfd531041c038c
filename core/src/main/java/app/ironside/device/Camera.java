package app.ironside.device;

import app.ironside.Check;
import app.ironside.image.Frame;
import app.ironside.kit.CameraSettings;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/** A camera: exposes in the background, then hands over the frame. */
public interface Camera extends Device {
    /** What a frame is for; decides whether the shutter opens and what the file says. */
    enum FrameKind {
        LIGHT("Light"),
        DARK("Dark"),
        BIAS("Bias"),
        FLAT("Flat");

        private final String word;

        FrameKind(String word) {
            this.word = word;
        }

        /** As written to FITS headers. */
        public String word() {
            return word;
        }
    }

    /**
     * A part of the sensor, unbinned, with its first pixel at (left, bottom), from 0.
     */
    record Region(int left, int bottom, int width, int height) {
        public Region {
            Check.atLeast("left", left, 0);
            Check.atLeast("bottom", bottom, 0);
            Check.atLeast("width", width, 1);
            Check.atLeast("height", height, 1);
        }
    }

    /**
     * One exposure.
     *
     * @param binning pixels summed along each axis, 1 for none
     * @param region empty for the whole sensor
     */
    record Exposure(Duration length, FrameKind kind, int binning, Optional<Region> region) {
        public Exposure {
            if (length.isNegative()) {
                throw new IllegalArgumentException("length is " + length + "; expected 0 or more");
            }
            Check.inRange("binning", binning, 1, 4);
        }

        /** A full frame of the sky. */
        public static Exposure light(Duration length) {
            return new Exposure(length, FrameKind.LIGHT, 1, Optional.empty());
        }

        public Exposure withBinning(int pixels) {
            return new Exposure(length, kind, pixels, region);
        }

        public Exposure ofKind(FrameKind other) {
            return new Exposure(length, other, binning, region);
        }

        public Exposure lasting(Duration other) {
            return new Exposure(other, kind, binning, region);
        }

        public Exposure of(Region part) {
            return new Exposure(length, kind, binning, Optional.of(part));
        }
    }

    /** Whole numbers that a camera takes, ends included. */
    record Span(int least, int most) {
        public boolean holds(int value) {
            return least <= value && value <= most;
        }
    }

    /**
     * What a camera can do.
     *
     * @param mostBinning pixels that it sums along an axis at most
     * @param regions whether it reads out a part of the sensor
     * @param gain settings that it takes, in its own numbers; empty if it has none
     * @param offset as for gain
     * @param readoutModes names of them; empty if there is but one
     * @param cools whether it holds the sensor at a temperature
     * @param stopsEarly whether what was gathered before a stop can be downloaded
     */
    record Abilities(
            int mostBinning,
            boolean regions,
            Optional<Span> gain,
            Optional<Span> offset,
            List<String> readoutModes,
            boolean cools,
            boolean stopsEarly) {
        public Abilities {
            readoutModes = List.copyOf(readoutModes);
        }
    }

    Abilities abilities();

    /**
     * Sets gain, offset and read-out mode for the exposures that follow; what is left empty stays as it is.
     *
     * @throws DeviceException if the camera does not have such a setting
     */
    void use(CameraSettings settings);

    /**
     * Opens the shutter.
     *
     * @return over when the frame can be downloaded; aborted, there is no frame
     */
    Operation start(Exposure exposure);

    /**
     * Ends the exposure before its time and reads out; what was gathered can be downloaded when the operation that {@link #start} gave is
     * over, and its EXPTIME says how long that was. A camera that cannot do so ignores it.
     */
    void stop();

    /** The frame of the last exposure, with DATE-OBS, EXPTIME, CCD-TEMP and the camera's own settings in its header. */
    Frame download();

    /** Sets the cooler, °C; a camera without one ignores it. */
    void coolTo(double temperatureC);

    /** Lets the sensor warm up slowly to the surroundings. */
    void warmUp();

    double sensorTemperatureC();

    /** The share of its power that the cooler uses, 0 to 1; empty if the camera does not tell. */
    OptionalDouble coolerPower();

    /** What it has noticed since it was last asked and a person should know, in whole sentences. */
    default List<String> remarks() {
        return List.of();
    }

    /** Exposes and waits. */
    default Frame expose(NightClock clock, Exposure exposure) throws InterruptedException {
        start(exposure).await(clock);
        return download();
    }
}
