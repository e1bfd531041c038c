package app.ironside.plan;

import app.ironside.kit.Equipment;
import app.ironside.kit.Kit;
import app.ironside.sky.Interval;
import app.ironside.sky.Site;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What a night costs besides clear sky: time, disk, current, and visits in the cold.
 *
 * @param setUpFrom when to begin carrying things out
 * @param lightUntil end of the last sub
 * @param calibrationUntil end of flats, bias and darks
 * @param bedtime when the last thing that needs hands is done
 * @param files that will be written
 * @param gigabytes of them, stacks and masters included
 * @param power against the supply; empty if the kit does not tell
 * @param load against the mount's rating; empty if the kit does not tell
 * @param dew by hour of the forecast
 * @param weatherInvented whether that forecast is made up for rehearsals
 * @param visits what needs hands, grouped into as few walks as possible
 * @param warnings what will go wrong, each in a sentence with its remedy
 * @param reminders what must not be forgotten
 */
public record NightBudget(
        Instant setUpFrom,
        Instant lightUntil,
        Instant calibrationUntil,
        Instant bedtime,
        int files,
        double gigabytes,
        Optional<Power> power,
        Optional<Load> load,
        List<DewHour> dew,
        boolean weatherInvented,
        List<Visit> visits,
        List<String> warnings,
        List<String> reminders) {
    /** Where no forecast tells how cold it gets. */
    public static final double UNKNOWN_COLD_C = 15;

    /** A change of the filter waits no longer: nothing is exposed meanwhile. */
    private static final long FILTER_WINDOW_SECONDS = 600;

    /** Small telescopes shake in more (common practice), m/s. */
    private static final double STRONG_WIND = 8;

    /** At this temperature a battery gives what it is rated for. */
    public static final double RATED_AT_C = 25;

    /** So long before it is empty a battery is changed, and a card before it is full. */
    public static final Duration IN_TIME = Duration.ofMinutes(30);

    /** A sensor is let warm up this long before its power is cut (common practice: 10 to 15 min). */
    public static final Duration WARM_UP = Duration.ofMinutes(12);

    /** A supply should not be asked for more than four fifths of its rating for hours (common practice). */
    public static final double PEAK_RESERVE = 0.8;

    /** Masters, stacks and their pictures, as so many frames. */
    public static final int DERIVED_FRAMES = 24;

    /**
     * Current.
     *
     * @param batteryHours at the mean draw and the night's coldest temperature; empty on mains
     */
    public record Power(double idleWatts, double peakWatts, double supplyWatts, Optional<Double> batteryHours) {
        /** Whether the reserve is left. */
        public boolean enough() {
            return peakWatts <= PEAK_RESERVE * supplyWatts;
        }
    }

    /** Mass on the mount. */
    public record Load(double kg, double limitKg) {
        /** Imaging wants a third of the rating in reserve (common practice). */
        public boolean comfortable() {
            return kg <= limitKg * 2 / 3;
        }
    }

    /** Risk for unheated glass in an hour. */
    public record DewHour(Instant time, double temperatureC, double dewPointC, Dew.Risk risk) {}

    /**
     * A walk to the telescope.
     *
     * @param at when
     * @param jobs what to do there
     */
    public record Visit(Instant at, List<String> jobs) {
        public Visit {
            jobs = List.copyOf(jobs);
        }
    }

    /** Something that needs hands within a window. */
    public record Job(String what, Interval window) {}

    /**
     * What the budget is made from.
     *
     * @param freeGigabytes where the frames will go
     */
    public record Given(
            Site site, Kit kit, NightPlan plan, Program program, WeatherForecast weather, double freeGigabytes) {}

    /** From the last light to bed: calibration frames, and warming the camera. */
    static Duration afterLight(Kit kit, Program program) {
        return CalibrationPlan.of(program).duration(kit).plus(kit.sensor().cooled() ? WARM_UP : Duration.ZERO);
    }

    /** Adds everything up. */
    public static NightBudget of(Given given) {
        Instant dusk = given.plan()
                .times()
                .nauticalDusk()
                .orElse(given.plan().times().night().from());
        Instant setUp =
                dusk.minusSeconds(Math.round(60 * given.kit().equipment().setUpMinutes()));
        Instant lightUntil = given.plan().blocks().stream()
                .map(b -> b.span().until())
                .max(Comparator.naturalOrder())
                .orElse(dusk);
        CalibrationPlan calibration = CalibrationPlan.of(given.program());
        Instant calibrated = lightUntil.plus(calibration.duration(given.kit()));
        Instant bed = lightUntil.plus(afterLight(given.kit(), given.program()));
        List<WeatherForecast.Hour> hours =
                bed.isAfter(setUp) ? given.weather().hours(new Interval(setUp, bed)) : List.of();
        List<DewHour> dew = hours.stream()
                .map(h -> new DewHour(
                        h.time(),
                        h.temperatureC(),
                        Dew.pointC(h.temperatureC(), Math.max(0.05, h.relativeHumidity())),
                        Dew.risk(h.temperatureC(), Math.max(0.05, h.relativeHumidity()))))
                .toList();
        double coldest = hours.stream()
                .mapToDouble(WeatherForecast.Hour::temperatureC)
                .min()
                .orElse(UNKNOWN_COLD_C);
        Optional<Power> power = power(given.kit().equipment(), coldest);
        Optional<Load> load = given.kit()
                .equipment()
                .ratingKg()
                .map(limit -> new Load(given.kit().equipment().loadKg(), limit));
        int files = given.plan().subs() + calibration.frames();
        double gigabytes = (files + DERIVED_FRAMES) * frameBytes(given.kit()) / 1e9;
        NightBudget draft = new NightBudget(
                setUp,
                lightUntil,
                calibrated,
                bed,
                files,
                gigabytes,
                power,
                load,
                dew,
                given.weather().isInvented(),
                visits(jobs(given, power, setUp, lightUntil, bed)),
                List.of(),
                List.of());
        return draft.withWarnings(given);
    }

    /**
     * A battery gives its rated charge at 25 °C and loses about 0.8 % for each kelvin below, and a fifth is left in it to spare it
     * (common practice for lithium iron phosphate).
     */
    public static double usableWattHours(double ratedWattHours, double temperatureC) {
        double cold = Math.max(0.4, 1 - 0.008 * Math.max(0, RATED_AT_C - temperatureC));
        return 0.8 * ratedWattHours * cold;
    }

    private static Optional<Power> power(Equipment equipment, double coldestC) {
        return equipment.supply().map(supply -> {
            return new Power(
                    equipment.idleWatts(),
                    equipment.peakWatts(),
                    supply.watts(),
                    supply.batteryWattHours()
                            .map(wh -> usableWattHours(wh, coldestC) / Math.max(0.1, equipment.meanWatts())));
        });
    }

    /** When a battery that was full at the beginning is empty; none if it lasts until the end. */
    private static Optional<Instant> emptyAt(Optional<Power> power, Instant setUp, Instant bed) {
        return power.flatMap(Power::batteryHours)
                .map(hours -> setUp.plusMillis(Math.round(3_600_000 * hours)))
                .filter(bed::isAfter);
    }

    /** A raw frame as it is written, 16 bits a pixel. */
    public static double frameBytes(Kit kit) {
        return 2.0 * kit.sensor().widthPx() * kit.sensor().heightPx();
    }

    /** When the camera's card is full of lights; none if it holds them all, or there is none. */
    private static Optional<Instant> cardFullAt(Given given) {
        double frame = frameBytes(given.kit()) / 1e9;
        double room = given.kit().equipment().cardGigabytes().orElse(Double.POSITIVE_INFINITY);
        for (PlannedBlock block : given.plan().blocks()) {
            double all = block.subs() * frame;
            if (all > room) {
                return Optional.of(block.span()
                        .from()
                        .plusMillis(Math.round(block.span().duration().toMillis() * room / all)));
            }
            room -= all;
        }
        return Optional.empty();
    }

    // ---- visits
    // ------------------------------------------------------------------------------------------------------

    private static List<Job> jobs(Given given, Optional<Power> power, Instant setUp, Instant lightUntil, Instant bed) {
        Instant dusk = given.plan().times().nauticalDusk().orElse(setUp);
        List<Job> jobs = new ArrayList<>();
        Interval early = new Interval(setUp, dusk.isAfter(setUp) ? dusk : setUp);
        jobs.add(new Job("carry out, level, mount, balance", new Interval(setUp, setUp)));
        jobs.add(new Job("cables through the whole travel, then caps off", early));
        jobs.add(new Job("turn the knobs of the base at polar alignment", new Interval(dusk, dusk.plusSeconds(1800))));
        if (given.kit().motorFocuser().isEmpty()) {
            jobs.add(new Job(
                    "focus by hand with the mask, lock, check again", new Interval(dusk, dusk.plusSeconds(2400))));
        }
        emptyAt(power, setUp, bed)
                .ifPresent(at -> jobs.add(new Job("a fresh battery", new Interval(at.minus(IN_TIME), at))));
        cardFullAt(given)
                .ifPresent(
                        at -> jobs.add(new Job("an empty card into the camera", new Interval(at.minus(IN_TIME), at))));
        FilterWalks.of(given.plan(), given.kit(), given.program().ditherEvery())
                .forEach(c -> jobs.add(new Job(
                        "put filter " + c.filter() + " in",
                        new Interval(c.at(), c.at().plusSeconds(FILTER_WINDOW_SECONDS)))));
        for (PlannedBlock block : given.plan().blocks()) {
            if (!given.kit().equipment().goTo()) {
                jobs.add(new Job(
                        "turn to " + block.target().name(),
                        new Interval(block.span().from(), block.span().from().plusSeconds(600))));
            }
        }
        if (CalibrationPlan.of(given.program()).needsPanel()) {
            // Flats come first after the last light: whoever comes later finds them taken without a panel.
            jobs.add(new Job("flat panel on, focus and angle untouched", new Interval(lightUntil, lightUntil)));
        }
        jobs.add(new Job("caps on, power off after the warm-up, carry in", new Interval(bed, bed.plusSeconds(3600))));
        return jobs;
    }

    /**
     * The fewest walks that meet every window: sort by the windows' ends, walk at the end of the first that is not met yet, and take along
     * all that are open then.
     *
     * @see "Kleinberg and Tardos 2005, Algorithm Design, chapter 4 (interval stabbing by earliest end, exact)"
     */
    static List<Visit> visits(List<Job> jobs) {
        List<Job> left = new ArrayList<>(jobs);
        left.sort(Comparator.comparing((Job j) -> j.window().until()));
        List<Visit> visits = new ArrayList<>();
        while (!left.isEmpty()) {
            Instant at = left.get(0).window().until();
            List<Job> now =
                    left.stream().filter(j -> !j.window().from().isAfter(at)).toList();
            // Walking when the last of them opens is as good and leaves time in hand.
            Instant walk = now.stream()
                    .map(j -> j.window().from())
                    .max(Comparator.naturalOrder())
                    .orElse(at);
            visits.add(new Visit(walk, now.stream().map(Job::what).toList()));
            left.removeAll(now);
        }
        return visits;
    }

    // ---- warnings
    // ----------------------------------------------------------------------------------------------------

    private NightBudget withWarnings(Given given) {
        List<String> found = new ArrayList<>();
        List<String> reminded = new ArrayList<>();
        if (given.freeGigabytes() < gigabytes) {
            found.add(say(
                    "The disk has %.1f GB free and the night needs %.1f: free some first.",
                    given.freeGigabytes(), gigabytes));
        }
        power.filter(p -> !p.enough())
                .ifPresent(p -> found.add(say(
                        "Peak draw is %.0f W; the supply gives %.0f W, and four fifths of that for hours: use a larger one or two.",
                        p.peakWatts(), p.supplyWatts())));
        double nightHours = Duration.between(setUpFrom, bedtime).toMinutes() / 60.0;
        power.flatMap(Power::batteryHours)
                .filter(h -> h < nightHours)
                .ifPresent(h -> found.add(say(
                        "The battery lasts %.1f h in %s cold and the night takes %.1f h: bring a second, or stop earlier.",
                        h, weatherInvented ? "the rehearsal's invented" : "this", nightHours)));
        cardFullAt(given)
                .ifPresent(at -> found.add(say(
                        "The camera's card of %.0f GB is full at %s: take a larger one, or change it then.",
                        given.kit().equipment().cardGigabytes().orElseThrow(), clock(given, at))));
        load.filter(l -> l.kg() > l.limitKg())
                .ifPresent(l -> found.add(
                        say("%.1f kg are on a mount rated for %.1f kg: take something off.", l.kg(), l.limitKg())));
        load.filter(l -> l.kg() <= l.limitKg() && !l.comfortable())
                .ifPresent(l -> reminded.add(say(
                        "%.1f kg of %.1f kg: more than two thirds; expect wider guiding in wind.",
                        l.kg(), l.limitKg())));
        int changes = FilterWalks.of(given.plan(), given.kit(), given.program().ditherEvery())
                .size();
        int fewest = FilterWalks.fewest(given.plan());
        if (changes > fewest) {
            double each = Overheads.of(given.kit()).perFilterByHand() / 60;
            found.add(say(
                    "Filters are changed by hand %d times by this plan, %.0f min of the night; one after the other it would be %d times, %.0f min.",
                    changes, each * changes, fewest, each * fewest));
        }
        List<String> wet = given.kit().equipment().heated() ? reminded : found;
        dew.stream()
                .filter(d -> d.risk() == Dew.Risk.DEW || d.risk() == Dew.Risk.FROST)
                .findFirst()
                .ifPresent(d -> wet.add(
                        given.kit().equipment().heated()
                                ? say(
                                        "%s on unheated glass from %s%s: heaters on before then.",
                                        capital(d.risk().words()), clock(given, d.time()), source())
                                : say(
                                        "%s from %s%s, and this kit has no heater: hood and hand warmer, or stop then.",
                                        capital(d.risk().words()), clock(given, d.time()), source())));
        given.weather().hours(new Interval(setUpFrom, bedtime.isAfter(setUpFrom) ? bedtime : setUpFrom)).stream()
                .filter(h -> h.windMetresPerSecond() >= STRONG_WIND)
                .findFirst()
                .ifPresent(h -> reminded.add(say(
                        "Wind of %.0f m/s from %s%s: shorter subs, a shield, or a heavier foot.",
                        h.windMetresPerSecond(), clock(given, h.time()), source())));
        if (given.plan().blocks().isEmpty()) {
            found.add("No target is up in the dark: choose another, or another night.");
        }
        given.plan().blocks().stream()
                .flatMap(b -> b.flip().stream()
                        .map(f -> say(
                                "%s flips at about %s: be there the first time after a change of cables.",
                                b.target().name(), clock(given, f))))
                .forEach(reminded::add);
        return new NightBudget(
                setUpFrom,
                lightUntil,
                calibrationUntil,
                bedtime,
                files,
                gigabytes,
                power,
                load,
                dew,
                weatherInvented,
                visits,
                List.copyOf(found),
                List.copyOf(reminded));
    }

    private String source() {
        return weatherInvented ? " in the rehearsal's invented weather" : "";
    }

    private static String clock(Given given, Instant time) {
        return given.site().clock(time);
    }

    private static String capital(String words) {
        return words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    private static String say(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }
}
