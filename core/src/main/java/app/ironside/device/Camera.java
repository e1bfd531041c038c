package app.ironside.device;

import app.ironside.Check;
import app.ironside.image.Frame;
import java.time.Duration;
import java.util.Optional;

/** A camera: exposes in the background, then hands over the frame. */
public interface Camera {
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

    /** Opens the shutter and returns at once. */
    void start(Exposure exposure);

    /** Until the frame can be downloaded, read-out included; zero if it can. */
    Duration remaining();

    /** Ends the exposure before its time; what was gathered can be downloaded, and its EXPTIME says how long that was. */
    void stop();

    /** The frame of the last exposure, with DATE-OBS, EXPTIME, CCD-TEMP and the camera's own settings in its header. */
    Frame download();

    /** Sets the cooler, °C; a camera without one ignores it. */
    void coolTo(double temperatureC);

    /** Lets the sensor warm up slowly to the surroundings. */
    void warmUp();

    double sensorTemperatureC();

    /** Exposes and waits. */
    default Frame expose(NightClock clock, Exposure exposure) throws InterruptedException {
        start(exposure);
        clock.await(remaining());
        return download();
    }
}
