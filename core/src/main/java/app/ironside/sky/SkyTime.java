package app.ironside.sky;

import app.ironside.BadInputException;
import java.time.Instant;
import org.jastronomy.jsofa.JSOFA;
import org.jastronomy.jsofa.JSOFAException;

/**
 * An instant on the time scales that astrometry needs, as two-part Julian dates.
 *
 * <p>UT1 is taken as UTC: at most 0.9 s, 14″ of Earth rotation, which is below the pointing of any portable mount and is
 * absorbed by the first plate solution.
 */
record SkyTime(double utc1, double utc2, double tt1, double tt2) {
    private static final double UNIX_EPOCH_JD = 2_440_587.5;
    private static final Instant FIRST = Instant.parse("1972-01-01T00:00:00Z");

    /** Beyond this the number of leap seconds is anybody's guess, and with it the place of the Moon. */
    private static final Instant LAST = Instant.parse("2100-01-01T00:00:00Z");

    /** Of the day that was asked for last: looking leap seconds up takes longer than all else here. */
    private static volatile Ahead last = Ahead.of(0);

    /**
     * @throws BadInputException outside 1972 to 2099: before, UTC had another rate; after, nobody knows its leap seconds
     */
    static SkyTime of(Instant instant) {
        if (instant.isBefore(FIRST) || !instant.isBefore(LAST)) {
            throw new BadInputException("time", instant + " cannot be placed", "a date from 1972 to 2099");
        }
        long days = Math.floorDiv(instant.getEpochSecond(), 86_400L);
        double seconds = Math.floorMod(instant.getEpochSecond(), 86_400L) + instant.getNano() * 1e-9;
        double utc1 = UNIX_EPOCH_JD + days;
        double utc2 = seconds / 86_400;
        Ahead ahead = last;
        if (ahead.day() != days) {
            ahead = Ahead.of(days);
            last = ahead;
        }
        try {
            JSOFA.JulianDate tai = ahead.even()
                    ? new JSOFA.JulianDate(utc1, utc2 + ahead.taiMinusUtcDays())
                    : JSOFA.jauUtctai(utc1, utc2);
            JSOFA.JulianDate tt = JSOFA.jauTaitt(tai.djm0, tai.djm1);
            return new SkyTime(utc1, utc2, tt.djm0, tt.djm1);
        } catch (JSOFAException e) {
            throw new IllegalStateException("JSOFA refuses " + instant, e);
        }
    }

    /**
     * By how much atomic time is ahead on a day.
     *
     * @param day since 1970
     * @param even whether it is so all day; not on one that ends with a leap second
     */
    private record Ahead(long day, double taiMinusUtcDays, boolean even) {
        static Ahead of(long day) {
            double begin = at(day);
            return new Ahead(day, begin, begin == at(day + 1));
        }

        private static double at(long day) {
            try {
                return JSOFA.jauUtctai(UNIX_EPOCH_JD + day, 0).djm1;
            } catch (JSOFAException e) {
                throw new IllegalStateException("JSOFA refuses the day " + day, e);
            }
        }
    }
}
