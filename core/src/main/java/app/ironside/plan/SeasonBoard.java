package app.ironside.plan;

import app.ironside.Check;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.kit.Kit;
import app.ironside.sky.Angles;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.SunAndMoon;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.Month;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * Effective hours of each chosen target for every night of a year.
 *
 * <p>The dark part of a night comes from the Sun's declination at local midnight by the textbook formula for the hour angle of an
 * altitude, good to a minute; the rest from a {@link NightGrid} of twenty minutes.
 *
 * @param nights the evenings, one after the other
 * @param darkHours of each night
 * @param moonlessDarkHours of each night
 * @param rows one for each target
 * @param typical rows of objects that stand for their classes
 * @see "Meeus 1998, Astronomical Algorithms, equation 15.1, for the hour angle of an altitude"
 */
public record SeasonBoard(
        List<LocalDate> nights,
        List<Double> darkHours,
        List<Double> moonlessDarkHours,
        List<Row> rows,
        List<Row> typical) {
    private static final Duration STEP = Duration.ofMinutes(20);
    private static final double ASTRONOMICAL_DEG = -18;

    /** A night within this share of the season's best counts as best (common practice: start within days of that date). */
    private static final double NEAR_BEST = 0.95;

    /** Below this share of the best a night costs more than it gives. */
    private static final double LAST_USEFUL = 0.4;

    /** Moonlight comes and goes with the month; seasons are judged on the best of so many nights around. */
    private static final int MONTH = 30;

    private static final int MONTHS_BACK = 4;

    /** So many objects stand for a class. */
    private static final int TYPICAL = 30;

    /** Lower than this at its highest an object is none of its class's best, degrees. */
    private static final double TYPICAL_ALTITUDE_DEG = 40;

    /** Of the fainter ones the larger stands for its class. */
    private static final double NO_MAGNITUDE = 99;

    public SeasonBoard {
        nights = List.copyOf(nights);
        darkHours = List.copyOf(darkHours);
        moonlessDarkHours = List.copyOf(moonlessDarkHours);
        rows = List.copyOf(rows);
        typical = List.copyOf(typical);
    }

    /**
     * A target's year.
     *
     * @param hours effective hours by night
     * @param best the most a night of the year gives
     * @param firstBest the first evening of the year's season that comes near the best; empty if the target is never up
     * @param lastUseful the last evening that still gives two fifths of it
     */
    public record Row(
            DeepSkyObject object,
            List<Double> hours,
            double best,
            Optional<LocalDate> firstBest,
            Optional<LocalDate> lastUseful) {
        public Row {
            hours = List.copyOf(hours);
        }

        /**
         * The season that is under way on an evening, or the next one: seasons come again with the year.
         *
         * @return empty if the target is never up
         */
        public Optional<Season> season(LocalDate evening) {
            if (firstBest.isEmpty() || lastUseful.isEmpty()) {
                return Optional.empty();
            }
            LocalDate from = firstBest.get();
            LocalDate until = lastUseful.get();
            // A season that goes on beyond the board's end is seen to end at its beginning.
            if (until.isBefore(from)) {
                until = until.plusYears(1);
            }
            while (!until.minusYears(1).isBefore(evening)) {
                from = from.minusYears(1);
                until = until.minusYears(1);
            }
            while (until.isBefore(evening)) {
                from = from.plusYears(1);
                until = until.plusYears(1);
            }
            return Optional.of(new Season(from, until));
        }
    }

    /**
     * When a target is in season.
     *
     * @param bestFrom the evening from which it has its most hours
     * @param lastUseful the last one that still gives two fifths of them
     */
    public record Season(LocalDate bestFrom, LocalDate lastUseful) {}

    /** The first night of the board on which an evening is looked at: some months back, so that a season under way is seen to have begun. */
    public static LocalDate firstNight(LocalDate evening) {
        return evening.minusMonths(MONTHS_BACK).withDayOfMonth(1);
    }

    /** Kinds of object that are in season together and want the same optics. */
    public enum ObjectClass {
        GALAXIES("galaxies", "the longer focal length"),
        NEBULAE("nebulae", "the wide field, with narrow filters"),
        CLUSTERS("clusters", "any field");

        private final String words;
        private final String optics;

        ObjectClass(String words, String optics) {
            this.words = words;
            this.optics = optics;
        }

        public String words() {
            return words;
        }

        /** Which kit suits, common practice: 50 to 300 mm wide fields, 300 to 600 mm most, over 600 mm small galaxies. */
        public String optics() {
            return optics;
        }

        public static ObjectClass of(DeepSkyObject.Kind kind) {
            return switch (kind) {
                case OPEN_CLUSTER, GLOBULAR_CLUSTER -> CLUSTERS;
                case DARK_NEBULA,
                        BRIGHT_NEBULA,
                        STAR_FORMING,
                        REFLECTION_NEBULA,
                        EMISSION_NEBULA,
                        PLANETARY_NEBULA,
                        SUPERNOVA_REMNANT -> NEBULAE;
                default -> GALAXIES;
            };
        }
    }

    /**
     * The objects that stand for their classes at a site with a kit: the brightest that rise high and fit its field. The same whatever the
     * night.
     */
    public static List<DeepSkyObject> typical(DeepSkyCatalogue catalogue, Site site, Kit kit) {
        return Arrays.stream(ObjectClass.values())
                .flatMap(
                        of -> brightest(catalogue, of, site, o -> KitChoice.fit(o, kit) == Candidate.Fit.GOOD).stream())
                .toList();
    }

    /** The brightest of a class that rise high at a site. */
    static List<DeepSkyObject> brightest(
            DeepSkyCatalogue catalogue, ObjectClass of, Site site, Predicate<DeepSkyObject> also) {
        return catalogue.objects().stream()
                .filter(o -> ObjectClass.of(o.kind()) == of)
                .filter(o -> 90 - Math.abs(site.latDeg() - o.position().decDeg()) >= TYPICAL_ALTITUDE_DEG)
                .filter(also)
                .sorted(Comparator.comparingDouble(
                                (DeepSkyObject o) -> o.magnitude().orElse(NO_MAGNITUDE))
                        .thenComparingDouble(o -> -o.longAxisArcmin()))
                .limit(TYPICAL)
                .toList();
    }

    /**
     * Computes the board.
     *
     * @param typical objects that stand for their classes
     * @param first evening of the first night
     * @param nightCount usually 365
     */
    public static SeasonBoard of(
            Site site,
            List<DeepSkyObject> targets,
            List<DeepSkyObject> typical,
            LocalDate first,
            int nightCount,
            Settings settings) {
        Check.atLeast("nightCount", nightCount, 1);
        List<DeepSkyObject> all =
                Stream.concat(targets.stream(), typical.stream()).toList();
        double[][] hours = new double[all.size()][nightCount];
        double[][] dark = new double[2][nightCount];
        double[][] directions = all.stream()
                .map(t -> Vectors.of(t.position().raDeg(), t.position().decDeg()))
                .toArray(double[][]::new);
        settings.workers().forEach(nightCount, night -> {
            settings.progress().step("Night " + first.plusDays(night), (double) night / nightCount);
            weighNight(
                    site,
                    first.plusDays(night),
                    settings.minimumAltitudeDeg(),
                    directions,
                    (target, value) -> {
                        hours[target][night] = value;
                    },
                    (dark0, moonless) -> {
                        dark[0][night] = dark0;
                        dark[1][night] = moonless;
                    });
        });
        List<LocalDate> nights =
                IntStream.range(0, nightCount).mapToObj(first::plusDays).toList();
        List<Row> rows = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            rows.add(row(all.get(i), hours[i], nights));
        }
        return new SeasonBoard(
                nights,
                boxed(dark[0]),
                boxed(dark[1]),
                rows.subList(0, targets.size()),
                rows.subList(targets.size(), rows.size()));
    }

    /** How a board is made. */
    public record Settings(double minimumAltitudeDeg, Workers workers, Progress progress) {}

    @FunctionalInterface
    private interface PerTarget {
        void accept(int target, double hours);
    }

    @FunctionalInterface
    private interface PerNight {
        void accept(double dark, double moonless);
    }

    private static List<Double> boxed(double[] values) {
        return java.util.Arrays.stream(values).boxed().toList();
    }

    private static void weighNight(
            Site site, LocalDate evening, double minimumDeg, double[][] directions, PerTarget out, PerNight darkness) {
        // Each night has its own observer, so that nights do not wait for one another's cache.
        Observer observer = Observer.at(site);
        Optional<Interval> dark = dark(site, observer, evening);
        if (dark.isEmpty()) {
            darkness.accept(0, 0);
            return;
        }
        NightGrid grid = new NightGrid(observer, dark.get(), STEP, CloudForecast.CLEAR);
        double piece = dark.get().hours() / grid.size();
        int moonless = (int)
                IntStream.range(0, grid.size()).filter(i -> !grid.moonIsUp(i)).count();
        darkness.accept(dark.get().hours(), moonless * piece);
        double sinLeast = Math.sin(Math.toRadians(Math.max(0, minimumDeg - 0.6)));
        for (int target = 0; target < directions.length; target++) {
            double sum = 0;
            for (int i = 0; i < grid.size(); i++) {
                if (grid.sinAltitude(i, directions[target]) >= sinLeast) {
                    NightGrid.Seen seen = grid.seen(i, directions[target]);
                    if (seen.up() && seen.altitudeDeg() >= minimumDeg) {
                        sum += piece * grid.weight(i, seen, directions[target], NightGrid.Light.VISUAL);
                    }
                }
            }
            out.accept(target, sum);
        }
    }

    /** From dusk to dawn at −18°, to a minute; empty where the Sun stays higher. */
    static Optional<Interval> dark(Site site, Observer observer, LocalDate evening) {
        Instant midnight = evening.plusDays(1)
                .atTime(LocalTime.MIDNIGHT)
                .atZone(site.zone())
                .toInstant();
        SunAndMoon bodies = new SunAndMoon(observer);
        var sun = observer.catalogue(bodies.sun(midnight), midnight);
        double hourAngle = observer.hourAngleDeg(sun, midnight);
        // Lower culmination, where the Sun stands deepest: the middle of the night.
        Instant deepest = midnight.minusMillis(Math.round(Angles.wrap180(hourAngle - 180) / 15 * 3_600_000));
        double decNow = Math.toRadians(90 - polarDistance(observer, bodies, deepest));
        double latitude = Math.toRadians(site.latDeg());
        double cosine = (Math.sin(Math.toRadians(ASTRONOMICAL_DEG)) - Math.sin(latitude) * Math.sin(decNow))
                / (Math.cos(latitude) * Math.cos(decNow));
        if (cosine <= -1) {
            return Optional.empty();
        }
        double halfHours = cosine >= 1 ? 12 : 12 - Math.toDegrees(Math.acos(cosine)) / 15;
        long millis = Math.round(halfHours * 3_600_000);
        return Optional.of(new Interval(deepest.minusMillis(millis), deepest.plusMillis(millis)));
    }

    /** Of the Sun from the celestial pole of date, degrees: the altitude at lower culmination tells it without precession. */
    private static double polarDistance(Observer observer, SunAndMoon bodies, Instant deepest) {
        double latitude = observer.site().latDeg();
        double altitude = new SunAndMoon(observer.airless()).sun(deepest).altitudeDeg();
        // At lower culmination altitude = −(90 − |φ + δ|), with the sign of the side that the Sun passes.
        double azimuth = bodies.sun(deepest).azimuthDeg();
        boolean north = Math.abs(Angles.wrap180(azimuth)) < 90;
        double dec = north ? 90 - latitude + altitude : -90 - latitude - altitude;
        return 90 - dec;
    }

    private static Row row(DeepSkyObject object, double[] hours, List<LocalDate> nights) {
        double best = java.util.Arrays.stream(hours).max().orElse(0);
        if (best <= 0) {
            return new Row(object, boxed(hours), 0, Optional.empty(), Optional.empty());
        }
        int n = hours.length;
        double[] season = season(hours);
        int start = IntStream.range(0, n)
                .filter(i -> season[i] <= 0.5 * best)
                .findFirst()
                .orElse(0);
        int first = -1;
        int last = -1;
        for (int k = 0; k < n; k++) {
            int i = (start + k) % n;
            if (first < 0 && hours[i] >= NEAR_BEST * best) {
                first = i;
            }
            if (first >= 0 && season[i] >= LAST_USEFUL * best) {
                last = hours[i] >= LAST_USEFUL * best ? i : last;
            } else if (first >= 0) {
                break;
            }
        }
        return new Row(
                object,
                boxed(hours),
                best,
                first < 0 ? Optional.empty() : Optional.of(nights.get(first)),
                last < 0 ? Optional.empty() : Optional.of(nights.get(last)));
    }

    /** The best of the month around each night: the season without its moonlight. */
    private static double[] season(double[] hours) {
        double[] best = new double[hours.length];
        for (int i = 0; i < hours.length; i++) {
            for (int k = Math.max(0, i - MONTH / 2); k < Math.min(hours.length, i + MONTH / 2); k++) {
                best[i] = Math.max(best[i], hours[k]);
            }
        }
        return best;
    }

    /**
     * Nights needed to gather a number of effective hours from an evening on, with so many clear nights a month.
     *
     * @return empty if the season ends before
     */
    public Optional<Goal> nightsFor(Row row, double effectiveHours, LocalDate from, double clearNightsPerMonth) {
        double share = Math.min(1, Check.positive("clearNightsPerMonth", clearNightsPerMonth) / MONTH);
        double sum = 0;
        for (int i = 0; i < nights.size(); i++) {
            if (!nights.get(i).isBefore(from)) {
                sum += share * row.hours().get(i);
                if (sum >= effectiveHours) {
                    double mean = sum / Math.max(1, share * (i + 1 - nights.indexOf(from)));
                    return Optional.of(new Goal(nights.get(i), (int) Math.ceil(effectiveHours / Math.max(0.1, mean))));
                }
            }
        }
        return Optional.empty();
    }

    /** When a goal can be expected and in how many clear nights. */
    public record Goal(LocalDate reached, int clearNights) {}

    /** Mean of the best hours of each month's nights by class of object: the months board. */
    public Map<Month, Map<ObjectClass, Double>> months() {
        Map<Month, Map<ObjectClass, Double>> board = new EnumMap<>(Month.class);
        for (Month month : Month.values()) {
            Map<ObjectClass, double[]> sums = new EnumMap<>(ObjectClass.class);
            for (Row row : typical) {
                double[] sum = sums.computeIfAbsent(ObjectClass.of(row.object().kind()), c -> new double[2]);
                double best = 0;
                for (int i = 0; i < nights.size(); i++) {
                    best = nights.get(i).getMonth() == month
                            ? Math.max(best, row.hours().get(i))
                            : best;
                }
                sum[0] += best;
                sum[1]++;
            }
            Map<ObjectClass, Double> means = new EnumMap<>(ObjectClass.class);
            sums.forEach((c, sum) -> means.put(c, sum[0] / sum[1]));
            board.put(month, means);
        }
        return board;
    }

    /** The months in which the class with the most hours changes, and to which. */
    public List<ChangeOver> changeOvers() {
        List<ChangeOver> changes = new ArrayList<>();
        Map<Month, Map<ObjectClass, Double>> board = months();
        ObjectClass before = leader(board.get(Month.DECEMBER));
        for (Month month : Month.values()) {
            ObjectClass now = leader(board.get(month));
            if (now != before && now != null) {
                changes.add(new ChangeOver(month, now));
            }
            before = now;
        }
        return changes;
    }

    private static ObjectClass leader(Map<ObjectClass, Double> hours) {
        return hours.entrySet().stream()
                .filter(e -> e.getKey() != ObjectClass.CLUSTERS)
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse(null);
    }

    /** From this month on another class of object has the better nights. */
    public record ChangeOver(Month month, ObjectClass to) {}
}
