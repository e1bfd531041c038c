package app.ironside.guide;

import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A star that does not come nearer though it is pulsed, and why: by how it moves it tells what it is.
 *
 * @param offArcsec from where it is held, the median
 * @param sentArcsec of pulses, both axes and all exposures added in squares
 * @param exposures that were looked at
 */
public record Runaway(double offArcsec, double sentArcsec, int exposures, Kind kind) {
    static final int JUDGED = 16;

    /** Nearer than this the air and the loop account for it. */
    private static final double AWAY_ARCSEC = 4;

    private static final double LEAST_RESPONSE = 0.15;

    /** From one exposure to the next the air moves a star by half an arcsecond and more (common practice), and nothing moves a hot pixel. */
    private static final double STIRS_ARCSEC = 0.2;

    /** A third of the sky's own rate: no gear and no cable runs so fast. */
    private static final double TURNS_ARCSEC_PER_S = 5;

    /** What it is. */
    public enum Kind {
        /** It stands still to less than the air lets any star. */
        NO_STAR,
        /** It goes with the sky. */
        MOUNT_STANDS,
        /** It moves, and not as the calibration has it. */
        CALIBRATION_VOID
    }

    /** @param recent exposures, oldest first, all on one lock position; the star was seen in all of them */
    static Optional<Runaway> of(List<GuideSample> recent, GuideCalibration known) {
        if (recent.size() < JUDGED) {
            return Optional.empty();
        }
        double[] off = recent.stream()
                .mapToDouble(s -> Math.hypot(s.raArcsec(), s.decArcsec()))
                .sorted()
                .toArray();
        double middle = off[off.length / 2];
        if (middle < AWAY_ARCSEC) {
            return Optional.empty();
        }
        double answered = 0;
        double asked = 0;
        for (int i = 0; i + 1 < recent.size(); i++) {
            GuideSample a = recent.get(i);
            GuideSample b = recent.get(i + 1);
            double west = a.raPulseMs() * known.westArcsecPerSecond() / 1000;
            double north = a.decPulseMs() * known.northArcsecPerSecond() / 1000;
            answered += (b.raArcsec() - a.raArcsec()) * west + (b.decArcsec() - a.decArcsec()) * north;
            asked += west * west + north * north;
        }
        return asked < AWAY_ARCSEC * AWAY_ARCSEC || answered / asked > LEAST_RESPONSE
                ? Optional.empty()
                : Optional.of(new Runaway(middle, Math.sqrt(asked), recent.size(), kind(recent)));
    }

    private static Kind kind(List<GuideSample> recent) {
        GuideSample first = recent.get(0);
        GuideSample last = recent.get(recent.size() - 1);
        double seconds = Duration.between(first.time(), last.time()).toMillis() / 1000.0;
        double run = Math.hypot(last.raArcsec() - first.raArcsec(), last.decArcsec() - first.decArcsec());
        if (run / Math.max(1, seconds) > TURNS_ARCSEC_PER_S) {
            return Kind.MOUNT_STANDS;
        }
        double squares = 0;
        for (int i = 0; i + 1 < recent.size(); i++) {
            double ra = recent.get(i + 1).raArcsec() - recent.get(i).raArcsec();
            double dec = recent.get(i + 1).decArcsec() - recent.get(i).decArcsec();
            squares += ra * ra + dec * dec;
        }
        return Math.sqrt(squares / (recent.size() - 1)) < STIRS_ARCSEC ? Kind.NO_STAR : Kind.CALIBRATION_VOID;
    }

    /** In words. */
    public String words() {
        String pulses =
                String.format(Locale.ROOT, " though pulses of %.0f″ were sent in %d exposures", sentArcsec, exposures);
        String away = String.format(Locale.ROOT, "%.1f″ off", offArcsec);
        return switch (kind) {
            case NO_STAR -> "the star stays " + away + pulses + " and does not stir: it is a hot pixel";
            case MOUNT_STANDS -> "the star goes with the sky, " + away + pulses + ": the mount stands still";
            case CALIBRATION_VOID -> "the star stays " + away + pulses;
        };
    }

    /** What is to be done. */
    public String remedy() {
        return switch (kind) {
            case NO_STAR -> "Another star is taken; a dark of the guide camera keeps such pixels out of its choice.";
            case MOUNT_STANDS -> "Look at its power, its clutches and its cable, and whether it is parked.";
            case CALIBRATION_VOID -> "The calibration is void and another star is taken; if it happens again, look for a slipping clutch.";
        };
    }
}
