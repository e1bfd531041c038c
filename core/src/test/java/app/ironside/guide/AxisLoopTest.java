package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.OptionalDouble;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The loop of an axis against gears, slack, wind and air that are nothing but arithmetic, 2.5 s from one exposure to the next. */
class AxisLoopTest {
    private static final double CADENCE = 2.5;
    private static final int RUN_IN = 120;

    /** What an axis does by itself, and what the air adds. */
    private record Night(double[] way, double[] air, double slack, double period) {
        /**
         * @param swing of the gear from end to end
         * @param drift arcseconds a minute
         * @param gusts probability of one at each exposure
         */
        static Night of(
                int exposures,
                double swing,
                double period,
                double air,
                double slack,
                double drift,
                double gusts,
                long seed) {
            Random random = new Random(seed);
            double[] way = new double[exposures];
            double[] seen = new double[exposures];
            double phase = 6.28 * random.nextDouble();
            double second = 6.28 * random.nextDouble();
            double gust = 0;
            double walk = 0;
            double a = 0;
            for (int i = 0; i < exposures; i++) {
                double t = CADENCE * i;
                a = 0.3 * a + Math.sqrt(1 - 0.09) * air * random.nextGaussian();
                seen[i] = a;
                gust = 0.7 * (gust + (random.nextDouble() < gusts ? 3 * random.nextGaussian() : 0));
                walk += 0.03 * random.nextGaussian();
                way[i] = swing
                                / 2
                                * (Math.sin(2 * Math.PI * t / period + phase)
                                        + 0.25 * Math.sin(4 * Math.PI * t / period + second))
                        + drift * t / 60
                        + gust
                        + walk;
            }
            return new Night(way, seen, slack, period);
        }

        /** Mean square of where the axis really stood, once it has run in. */
        double held(AxisLoop loop) {
            double at = -way[0];
            double motor = 0;
            double sum = 0;
            for (int i = 0; i < way.length; i++) {
                double truth = way[i] + at;
                double back = Math.max(-18, Math.min(18, loop.answer(CADENCE * i, truth + air[i])));
                double wanted = motor - loop.sent(back);
                double held = Math.max(0, Math.min(slack, wanted));
                at += wanted - held;
                motor = held;
                sum += i < RUN_IN ? 0 : truth * truth;
            }
            return sum / (way.length - RUN_IN);
        }

        /** The best that any fixed share and least move would have reached: found by trying all, knowing the night. */
        double bestFixed() {
            double best = Double.POSITIVE_INFINITY;
            for (double share : new double[] {0.1, 0.2, 0.3, 0.4, 0.55, 0.7, 0.85, 1}) {
                for (double least : new double[] {0, 0.15, 0.3, 0.6, 1.2}) {
                    best = Math.min(best, held(new AxisLoop(new AxisRule(GuideLaw.PROPORTIONAL, share, least), false)));
                }
            }
            return best;
        }
    }

    /**
     * Sixty nights of three hours with air for seeing of 1 to 4″, gears of 5 to 40″, slack of 0 to 20″ and gusts in a third of them: both
     * axes together as the best fixed setting, found by trying all with hindsight, holds them; the worst night at 1.15 times that.
     */
    @Test
    void sixtyNightsAreHeldAsTheBestFixedSettingWould() {
        Random random = new Random(5);
        double worst = 0;
        double sum = 0;
        for (int night = 0; night < 60; night++) {
            double air = 0.17 * (1 + 3 * random.nextDouble());
            double gusts = random.nextDouble() < 0.3 ? 0.01 : 0;
            Night ra = Night.of(
                    1200,
                    5 + 35 * random.nextDouble(),
                    300 + 400 * random.nextDouble(),
                    air,
                    0,
                    random.nextGaussian(),
                    gusts,
                    random.nextLong());
            double slack = 20 * random.nextDouble();
            Night dec = Night.of(1200, 0, 600, air, slack, 4 * random.nextGaussian(), gusts, random.nextLong());
            AxisLoop raLoop = new AxisLoop(GuideRules.USUAL.ra(), true);
            raLoop.period(OptionalDouble.of(ra.period()));
            AxisLoop decLoop = new AxisLoop(GuideRules.USUAL.dec(), true);
            // Calibration measures slack to within a fifth.
            decLoop.slack(GuideRules.USUAL.slackBy(), slack * (0.8 + 0.4 * random.nextDouble()));
            double ratio = Math.sqrt((ra.held(raLoop) + dec.held(decLoop)) / (ra.bestFixed() + dec.bestFixed()));
            worst = Math.max(worst, ratio);
            sum += ratio / 60;
        }
        assertThat(sum).isLessThan(1.03);
        assertThat(worst).isLessThan(1.2);
    }

    /** A gear of 40″ whose period is known is foreseen: the error falls well below what following it leaves. */
    @Test
    void aKnownGearIsForeseen() {
        Night night = Night.of(2400, 40, 480, 0.3, 0, 0, 0, 3);
        AxisLoop follows = new AxisLoop(new AxisRule(GuideLaw.PROPORTIONAL, 0.7, 0), false);
        AxisLoop foresees = new AxisLoop(new AxisRule(GuideLaw.FORESEEING, 0.7, 0), false);
        foresees.period(OptionalDouble.of(480));
        assertThat(Math.sqrt(night.held(foresees))).isLessThan(0.75 * Math.sqrt(night.held(follows)));
    }

    /** Law: a share g holds a drift d an exposure at the distance d / g (and the memory's part of d); a line through it holds it at none. */
    @Test
    void aDriftIsHeldAtADistanceOrForeseen() {
        Night night = new Night(ramp(600, 0.2), new double[600], 0, 480);
        assertThat(Math.sqrt(night.held(new AxisLoop(new AxisRule(GuideLaw.PROPORTIONAL, 0.5, 0), false))))
                .isCloseTo(0.2 / 0.5 + 0.15 * 0.2, within(0.01));
        assertThat(Math.sqrt(night.held(new AxisLoop(new AxisRule(GuideLaw.LOW_PASS, 0.5, 0), false))))
                .isLessThan(0.01);
    }

    private static double[] ramp(int n, double step) {
        double[] way = new double[n];
        for (int i = 0; i < n; i++) {
            way[i] = step * i;
        }
        return way;
    }

    /** After a kick of 20″ the star is back within 2″ in 20 s, with each law, however gently it guides. */
    @ParameterizedTest
    @EnumSource(GuideLaw.class)
    void anExcursionIsOverInTwentySeconds(GuideLaw law) {
        double[] way = new double[300];
        for (int i = 200; i < way.length; i++) {
            way[i] = 20;
        }
        AxisLoop loop = new AxisLoop(new AxisRule(law, 0.2, 0.3), false);
        double at = 0;
        for (int i = 0; i < way.length; i++) {
            double truth = way[i] + at;
            at -= loop.sent(loop.answer(CADENCE * i, truth));
            if (i * CADENCE > 200 * CADENCE + 20) {
                assertThat(Math.abs(truth)).isLessThan(2);
            }
        }
    }

    /** A dither is no disturbance: what the loop learned of the axis stays, and the star goes where it is sent. */
    @Test
    void aDitherIsFollowedAndForgetsNothing() {
        AxisLoop loop = new AxisLoop(new AxisRule(GuideLaw.LOW_PASS, 0.5, 0), false);
        double at = 0;
        for (int i = 0; i < 400; i++) {
            double lock = i < 200 ? 0 : 12;
            if (i == 200) {
                loop.shifted(-12);
            }
            double error = 0.1 * i + at - lock;
            at -= loop.sent(loop.answer(CADENCE * i, error));
            if (i > 30 && i < 200 || i > 212) {
                assertThat(Math.abs(error)).isLessThan(0.2);
            }
        }
    }
}
