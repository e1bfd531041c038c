package app.ironside.star;

import java.util.Optional;

/**
 * A measured star.
 *
 * @param x FITS pixel of the centroid, the centre of the first pixel is 1
 * @param y as x
 * @param fluxAdu above the background
 * @param peakAdu brightest pixel above the background
 * @param halfFluxRadiusPx radius of the circle about the centroid that holds half of the flux
 * @param fwhmPx full width of its image at half of the peak, the geometric mean of both axes
 * @param eccentricity √(1 − b²/a²), 0 round
 * @param angleDeg long axis from +x toward +y, −90 to 90
 * @param snr flux over the background noise inside it
 * @param saturated whether a pixel reached the top of the range
 * @param fluxErrorAdu standard deviation of the flux: background noise over the aperture, and the star's own photons where the header
 *     tells the gain
 * @param profile the fitted profile; empty where the fit found none (too few pixels, saturated)
 */
public record Star(
        double x,
        double y,
        double fluxAdu,
        double peakAdu,
        double halfFluxRadiusPx,
        double fwhmPx,
        double eccentricity,
        double angleDeg,
        double snr,
        boolean saturated,
        double fluxErrorAdu,
        Optional<Moffat> profile) {
    Star movedBy(double columns, double rows) {
        return new Star(
                x + columns,
                y + rows,
                fluxAdu,
                peakAdu,
                halfFluxRadiusPx,
                fwhmPx,
                eccentricity,
                angleDeg,
                snr,
                saturated,
                fluxErrorAdu,
                profile);
    }

    Star measuredAgain(double column, double row, double flux, double error) {
        return new Star(
                column,
                row,
                flux,
                peakAdu,
                halfFluxRadiusPx,
                fwhmPx,
                eccentricity,
                angleDeg,
                snr,
                saturated,
                error,
                profile);
    }

    Star withFwhm(double width) {
        return new Star(
                x,
                y,
                fluxAdu,
                peakAdu,
                halfFluxRadiusPx,
                width,
                eccentricity,
                angleDeg,
                snr,
                saturated,
                fluxErrorAdu,
                profile);
    }
}
