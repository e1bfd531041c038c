package app.ironside.guide;

import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A stretch in which the star left its usual place.
 *
 * @param peakArcsec farthest from it
 */
public record Excursion(double fromSeconds, double untilSeconds, double peakArcsec, GuideCause cause) {
    /** Of the usual spread, at which it begins; a chance sample as far is one in 16,000. */
    private static final double BEGINS_SIGMAS = 4;

    /** One sample alone must be this far. */
    private static final double ALONE_SIGMAS = 6;

    private static final double ENDS_SIGMAS = 2.5;

    /** Samples in a row that must be back. */
    private static final int BACK = 2;

    private static final int WINDOW = 121;
    private static final double NORMAL = 1.4826;

    /** Of the other axis: a motion along one axis alone comes from that axis. */
    private static final double ALONG_ONE = 0.35;

    /** Signal of the star against its usual, below which cloud hid it. */
    private static final double DIMMED = 0.6;

    /**
     * All of a record.
     *
     * @param ra displacements freed from what is regular, arcseconds
     * @param dec the same in declination
     */
    static List<Excursion> of(GuideLog log, double[] ra, double[] dec) {
        double[] x = aboutUsual(ra);
        double[] y = aboutUsual(dec);
        double sigmaX = spread(x);
        double sigmaY = spread(y);
        List<Excursion> found = new ArrayList<>();
        int i = 0;
        while (i < x.length) {
            if (far(x[i], sigmaX, y[i], sigmaY) < BEGINS_SIGMAS) {
                i++;
                continue;
            }
            int from = i;
            int last = i;
            for (int back = 0; i < x.length && back < BACK; i++) {
                if (far(x[i], sigmaX, y[i], sigmaY) >= ENDS_SIGMAS) {
                    last = i;
                    back = 0;
                } else {
                    back++;
                }
            }
            int peak = from;
            for (int k = from; k <= last; k++) {
                peak = Math.hypot(x[k], y[k]) > Math.hypot(x[peak], y[peak]) ? k : peak;
            }
            if (last > from || far(x[peak], sigmaX, y[peak], sigmaY) >= ALONE_SIGMAS) {
                found.add(new Excursion(
                        log.seconds()[from],
                        log.seconds()[last],
                        Math.hypot(x[peak], y[peak]),
                        cause(log, from, last, x[peak], y[peak])));
            }
        }
        return found;
    }

    private static GuideCause cause(GuideLog log, int from, int last, double x, double y) {
        boolean dimmed = log.snr()
                .map(snr -> Statistics.median(Arrays.copyOfRange(snr, from, last + 1))
                        < DIMMED * Statistics.median(snr.clone()))
                .orElse(false);
        if (dimmed) {
            return GuideCause.AIR;
        }
        if (Math.abs(y) < ALONG_ONE * Math.abs(x)) {
            return GuideCause.GEARS;
        }
        return Math.abs(x) < ALONG_ONE * Math.abs(y) && log.guided() ? GuideCause.BACKLASH : GuideCause.WIND_OR_CABLE;
    }

    private static double far(double x, double sigmaX, double y, double sigmaY) {
        return Math.max(Math.abs(x) / Math.max(1e-9, sigmaX), Math.abs(y) / Math.max(1e-9, sigmaY));
    }

    private static double[] aboutUsual(double[] v) {
        double[] out = new double[v.length];
        int half = Math.min(WINDOW, v.length) / 2;
        for (int i = 0; i < v.length; i++) {
            int from = Math.max(0, Math.min(v.length - 2 * half, i - half));
            out[i] = v[i] - Statistics.median(Arrays.copyOfRange(v, from, Math.min(v.length, from + 2 * half + 1)));
        }
        return out;
    }

    private static double spread(double[] v) {
        return NORMAL * Statistics.median(Arrays.stream(v).map(Math::abs).toArray());
    }

    public double seconds() {
        return untilSeconds - fromSeconds;
    }
}
