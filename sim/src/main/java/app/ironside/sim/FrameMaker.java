package app.ironside.sim;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.Optional;

/** Makes the frame of an exposure from what fell on the sensor. */
interface FrameMaker {
    /**
     * One exposure.
     *
     * @param sky what the telescope saw; empty if the shutter was closed, or something stood before it
     * @param evenElectrons in each pixel, of an even light before the telescope
     * @param window the part of the sensor that is read
     * @param binning pixels summed along each axis
     * @param seed of its noise
     * @param header what the camera says of it
     */
    record Shot(
            Optional<Exposer.Scene> sky,
            double evenElectrons,
            Exposer.Window window,
            int binning,
            double seconds,
            double temperatureC,
            long seed,
            Header header) {}

    Frame make(Shot shot);
}
