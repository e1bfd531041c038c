package app.ironside.guide;

import app.ironside.Check;

/**
 * How a star moves on the guide camera for pulses along each axis.
 *
 * @param westX pixels a second along x for a pulse west
 * @param northX pixels a second along x for a pulse north
 * @param arcsecPerPixel of the guide camera
 * @param declinationDeg where it was measured: right ascension runs slower away from the equator
 */
public record GuideCalibration(
        double westX, double westY, double northX, double northY, double arcsecPerPixel, double declinationDeg) {
    public GuideCalibration {
        Check.positive("angle between the axes", Math.abs(westX * northY - westY * northX));
    }

    /** Displacement in pixels as arcseconds along right ascension (positive west) and declination (positive north). */
    public double[] toAxesArcsec(double dx, double dy) {
        double determinant = westX * northY - westY * northX;
        double westSeconds = (dx * northY - dy * northX) / determinant;
        double northSeconds = (dy * westX - dx * westY) / determinant;
        return new double[] {westSeconds * westArcsecPerSecond(), northSeconds * northArcsecPerSecond()};
    }

    /** Pixels for a displacement in arcseconds: the inverse of {@link #toAxesArcsec}. */
    public double[] toPixels(double westArcsec, double northArcsec) {
        double west = westArcsec / westArcsecPerSecond();
        double north = northArcsec / northArcsecPerSecond();
        return new double[] {west * westX + north * northX, west * westY + north * northY};
    }

    public double westArcsecPerSecond() {
        return Math.hypot(westX, westY) * arcsecPerPixel;
    }

    public double northArcsecPerSecond() {
        return Math.hypot(northX, northY) * arcsecPerPixel;
    }

    /** The angle between the two axes on the camera; far from 90° something slipped while it was measured. */
    public double axesAngleDeg() {
        double cosine = (westX * northX + westY * northY) / (Math.hypot(westX, westY) * Math.hypot(northX, northY));
        return Math.toDegrees(Math.acos(Math.max(-1, Math.min(1, cosine))));
    }

    /** The same at another declination. */
    public GuideCalibration atDeclination(double otherDeg) {
        double factor = Math.cos(Math.toRadians(otherDeg)) / Math.cos(Math.toRadians(declinationDeg));
        return new GuideCalibration(westX * factor, westY * factor, northX, northY, arcsecPerPixel, otherDeg);
    }

    /** The same after a meridian flip: the camera has turned by half a turn. */
    public GuideCalibration flipped() {
        return new GuideCalibration(-westX, -westY, -northX, -northY, arcsecPerPixel, declinationDeg);
    }
}
