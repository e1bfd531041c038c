package app.ironside.sim;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;

/** The guide pulses since the mount was last moved otherwise, and where each moment finds them. Asked many times for each exposure. */
final class GuidePulses {
    /** No pulse is longer; what ended so long before a moment is over by then. */
    private static final double LONGEST_SECONDS = 10;

    private long origin;
    private int count;
    private double[] from = new double[64];
    private double[] length = new double[64];

    /** Sums of all up to and with each, arcseconds. */
    private double[] hourAngle = new double[64];

    private double[] declination = new double[64];

    void clear() {
        count = 0;
    }

    /** Takes down a pulse that begins now, after those before. */
    void add(Instant start, Duration time, double hourAngleArcsec, double declinationArcsec) {
        if (count == 0) {
            origin = start.getEpochSecond();
        }
        if (count == from.length) {
            from = Arrays.copyOf(from, 2 * count);
            length = Arrays.copyOf(length, 2 * count);
            hourAngle = Arrays.copyOf(hourAngle, 2 * count);
            declination = Arrays.copyOf(declination, 2 * count);
        }
        from[count] = seconds(start);
        length[count] = Math.min(LONGEST_SECONDS, time.toNanos() / 1e9);
        hourAngle[count] = hourAngleArcsec + (count == 0 ? 0 : hourAngle[count - 1]);
        declination[count] = declinationArcsec + (count == 0 ? 0 : declination[count - 1]);
        count++;
    }

    /** By how much they have turned the mount about the polar axis, arcseconds. */
    double hourAngleArcsec(Instant time) {
        return sum(hourAngle, time);
    }

    double declinationArcsec(Instant time) {
        return sum(declination, time);
    }

    private double sum(double[] sums, Instant time) {
        if (count == 0) {
            return 0;
        }
        double t = seconds(time);
        int begun = begunBy(t);
        double sum = begun == 0 ? 0 : sums[begun - 1];
        for (int i = begun - 1; i >= 0 && from[i] > t - LONGEST_SECONDS; i--) {
            double share = length[i] <= 0 ? 1 : Math.min(1, (t - from[i]) / length[i]);
            sum -= (1 - share) * (sums[i] - (i == 0 ? 0 : sums[i - 1]));
        }
        return sum;
    }

    private int begunBy(double t) {
        int place = Arrays.binarySearch(from, 0, count, t);
        if (place < 0) {
            return -place - 1;
        }
        while (place < count && from[place] <= t) {
            place++;
        }
        return place;
    }

    private double seconds(Instant time) {
        return time.getEpochSecond() - origin + time.getNano() / 1e9;
    }
}
