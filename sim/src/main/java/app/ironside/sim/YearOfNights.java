package app.ironside.sim;

import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Site;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * Nights as a year brings them: seeing, temperature, cloud and what breaks, drawn by a seed at stated rates. The rates are common
 * practice for a damp hill at middle latitudes and no measurement of any place; what a person's own journals show counts for more.
 */
public final class YearOfNights {
    /** One night in so many closes for good at some hour. */
    private static final int CLOSES = 10;

    /** One night in so many has banks of cloud that pass. */
    private static final int BANKS = 4;

    /** Share of light that a closed sky lets through: six magnitudes less. */
    private static final double CLOSED = 0.004;

    private static final int MOST_BANKS = 3;
    private static final int STEP_MINUTES = 5;

    /** Seeing goes up and down by this factor in two nights of three. */
    private static final double SEEING_LOG = 0.26;

    private static final double EVENING_SIGMA_C = 4;
    private static final double COOLING_SIGMA_C = 2;

    /** One night in so many has it. */
    private static final Map<FaultKind, Integer> ONE_IN = new EnumMap<>(Map.of(
            FaultKind.DEW, 30,
            FaultKind.FROST, 60,
            FaultKind.WIND, 20,
            FaultKind.FOG, 40,
            FaultKind.CABLE, 40,
            FaultKind.KNOCK, 100,
            FaultKind.FOCUSER_SLIP, 60,
            FaultKind.CAMERA_LOST, 60,
            FaultKind.POWER_DIP, 80,
            FaultKind.GUIDE_STAR_LOST, 50));

    private YearOfNights() {}

    /**
     * The time in which things happen.
     *
     * @param sunset local time
     * @param hours from sunset to sunrise
     */
    public record Span(LocalTime sunset, double hours) {
        public static Span of(Site site, LocalDate date) {
            NightTimes times = NightTimes.of(site, date);
            Instant from = times.sunset().orElse(times.night().from());
            Instant until = times.sunrise().orElse(times.night().until());
            return new Span(
                    from.atZone(site.zone()).toLocalTime().truncatedTo(ChronoUnit.MINUTES),
                    Duration.between(from, until).toMinutes() / 60.0);
        }
    }

    /** One night in so many in which a fault is drawn, by kind. */
    public static Map<FaultKind, Integer> oneIn() {
        return Map.copyOf(ONE_IN);
    }

    /**
     * A night of the year for gear that stays the same. Faults and clouds that were set already stay too.
     *
     * @param seed the same one gives the same night
     */
    public static SimSettings night(SimSettings gear, Span span, long seed) {
        Noise noise = Noise.of(seed, 2027);
        double air = Math.exp(SEEING_LOG * noise.gaussian());
        double evening = gear.eveningC() + EVENING_SIGMA_C * noise.gaussian();
        double cooling = Math.max(2, gear.eveningC() - gear.morningC() + COOLING_SIGMA_C * noise.gaussian());
        List<RehearsedFault> faults = new ArrayList<>(gear.faults());
        for (FaultKind kind : FaultKind.values()) {
            double lot = noise.uniform();
            LocalTime at = span.sunset().plusMinutes(Math.round(60 * span.hours() * noise.uniform()));
            if (ONE_IN.containsKey(kind) && lot * ONE_IN.get(kind) < 1) {
                faults.add(new RehearsedFault(kind, at));
            }
        }
        return gear.withSeed(seed)
                .withAir(gear.seeingArcsec() * air, gear.jitterArcsec() * air, evening, evening - cooling)
                .withClouds(clouds(gear, span, noise))
                .withFaults(faults);
    }

    private static List<SimSettings.Cloud> clouds(SimSettings gear, Span span, Noise noise) {
        List<SimSettings.Cloud> clouds = new ArrayList<>(gear.clouds());
        if (noise.uniform() * CLOSES < 1) {
            clouds.add(new SimSettings.Cloud(60 * span.hours() * noise.uniform(), 1440, CLOSED));
        }
        if (noise.uniform() * BANKS < 1) {
            int banks = 1 + (int) (MOST_BANKS * noise.uniform());
            for (int i = 0; i < banks; i++) {
                double from = 60 * span.hours() * noise.uniform();
                clouds.add(new SimSettings.Cloud(from, from + 10 + 50 * noise.uniform(), 0.1 + 0.6 * noise.uniform()));
            }
        }
        return clouds;
    }

    /** How many hours of a night are under cloud that takes more than half of the light; what a fault does is counted as its own. */
    public static double cloudedHours(SimSettings night, Span span) {
        double minutes = 0;
        for (int m = 0; m < 60 * span.hours(); m += STEP_MINUTES) {
            int minute = m;
            if (night.clouds().stream()
                    .anyMatch(c -> minute >= c.from() && minute < c.until() && c.transparency() < 0.5)) {
                minutes += STEP_MINUTES;
            }
        }
        return minutes / 60;
    }
}
