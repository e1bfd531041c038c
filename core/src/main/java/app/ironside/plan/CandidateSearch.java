package app.ironside.plan;

import app.ironside.Workers;
import app.ironside.kit.Kit;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;

/** Weighs the whole catalogue against a night. */
public final class CandidateSearch {
    private static final Duration STEP = Duration.ofMinutes(10);

    /** A star this bright leaves a halo that reaches into its neighbourhood (common practice). */
    private static final double TROUBLING_MAGNITUDE = 4.5;

    /** Room that registration takes at each edge, as a share of the side (common practice: 5 %). */
    public static final double CROP_MARGIN = 0.05;

    private static final double ARCSEC2_PER_ARCMIN2 = 3600;

    private final DeepSkyCatalogue catalogue;
    private final List<CatalogueStar> brightStars;
    private final double[][] brightDirections;

    public CandidateSearch(DeepSkyCatalogue catalogue, StarCatalogue stars) {
        this.catalogue = catalogue;
        this.brightStars = java.util.stream.IntStream.range(0, stars.size())
                .filter(i -> stars.magnitude(i) <= TROUBLING_MAGNITUDE)
                .mapToObj(stars::star)
                .sorted(Comparator.comparingDouble(CatalogueStar::magnitude))
                .toList();
        this.brightDirections = brightStars.stream()
                .map(s -> Vectors.of(s.position().raDeg(), s.position().decDeg()))
                .toArray(double[][]::new);
    }

    /**
     * What the search is for.
     *
     * @param minimumAltitudeDeg on top of the skyline, whichever is higher counts
     * @param level the most difficult objects wanted
     * @param gap a stretch that is to be filled; empty for the whole night
     */
    public record Wish(double minimumAltitudeDeg, Candidate.Level level, CloudForecast clouds, Optional<Gap> gap) {
        /** For the whole night. */
        public Wish(double minimumAltitudeDeg, Candidate.Level level, CloudForecast clouds) {
            this(minimumAltitudeDeg, level, clouds, Optional.empty());
        }
    }

    /**
     * Free time of a night.
     *
     * @param pastMeridian on which side of it the telescope is when the gap begins; empty if nothing comes before
     */
    public record Gap(Interval span, Optional<Boolean> pastMeridian) {
        /** What needs no flip comes first, unless it is worth much less (common practice). */
        private static final double WORTH_A_FLIP = 0.7;

        private boolean needsNoFlip(Candidate candidate) {
            Instant middle = span.from().plus(span.duration().dividedBy(2));
            return pastMeridian
                    .map(past -> past == candidate.transit().isBefore(middle))
                    .orElse(true);
        }

        private List<Candidate> sameSideFirst(List<Candidate> byWorth) {
            if (byWorth.isEmpty()) {
                return byWorth;
            }
            double enough = WORTH_A_FLIP * byWorth.get(0).worth();
            return byWorth.stream()
                    .sorted(Comparator.comparing((Candidate c) -> !(c.worth() >= enough && needsNoFlip(c))))
                    .toList();
        }
    }

    /** All objects that are up for at least one piece of ten minutes, the most worthwhile first. */
    public List<Candidate> rank(Site site, Kit kit, NightTimes night, Wish wish, Workers workers) {
        Observer observer = Observer.at(site);
        List<NightGrid> dark = night.dark().stream()
                .flatMap(d -> wish.gap().map(Gap::span).map(d::intersection).orElse(Optional.of(d)).stream())
                .map(d -> new NightGrid(observer, d, STEP, wish.clouds()))
                .toList();
        Map<TargetLight, NightGrid.Light> lights = lights(kit, site);
        Instant middle = night.night().from().plus(night.night().duration().dividedBy(2));
        double siderealDeg = observer.siderealTimeDeg(middle);
        List<DeepSkyObject> objects = catalogue.objects();
        Candidate[] found = new Candidate[objects.size()];
        workers.forEach(objects.size(), i -> {
            DeepSkyObject object = objects.get(i);
            if (dark.stream().anyMatch(grid -> mayRise(grid, object, wish.minimumAltitudeDeg()))) {
                found[i] = weigh(
                        object,
                        kit,
                        new Sky(dark, lights.get(TargetLight.of(object.kind()))),
                        wish,
                        transit(object, siderealDeg, middle));
            }
        });
        List<Candidate> byWorth = Arrays.stream(found)
                .filter(Objects::nonNull)
                .sorted(Comparator.comparingDouble(Candidate::worth).reversed())
                .toList();
        return wish.gap().map(gap -> gap.sameSideFirst(byWorth)).orElse(byWorth);
    }

    /** What the sky is to the filter that a kit takes first for a kind of light. */
    private static Map<TargetLight, NightGrid.Light> lights(Kit kit, Site site) {
        Map<TargetLight, NightGrid.Light> lights = new EnumMap<>(TargetLight.class);
        for (TargetLight light : TargetLight.values()) {
            lights.put(
                    light,
                    light.filters(kit, false).stream()
                            .findFirst()
                            .map(f -> Projects.light(kit, site, f, Projects.subSeconds(kit, site, f)))
                            .orElse(NightGrid.Light.VISUAL));
        }
        return lights;
    }

    /** A night as a kind of light sees it. */
    private record Sky(List<NightGrid> dark, NightGrid.Light light) {}

    private static boolean mayRise(NightGrid grid, DeepSkyObject object, double minimumDeg) {
        double latitude = grid.site().latDeg();
        double highest = 90 - Math.abs(latitude - object.position().decDeg());
        return highest + 1 > minimumDeg;
    }

    /** To about a minute: the middle's sidereal time against the right ascension of J2000. */
    private static Instant transit(DeepSkyObject object, double siderealDeg, Instant middle) {
        double hourAngle =
                app.ironside.sky.Angles.wrap180(siderealDeg - object.position().raDeg());
        return middle.minusMillis(Math.round(hourAngle / 15.041_067 * 3_600_000));
    }

    private Candidate weigh(DeepSkyObject object, Kit kit, Sky sky, Wish wish, Instant transit) {
        double[] direction =
                Vectors.of(object.position().raDeg(), object.position().decDeg());
        double usable = 0;
        double effective = 0;
        double highest = 0;
        double moonNear = 180;
        Interval longest = null;
        double sinLeast = Math.sin(Math.toRadians(Math.max(0, wish.minimumAltitudeDeg() - 0.6)));
        for (NightGrid grid : sky.dark()) {
            int since = -1;
            for (int i = 0; i <= grid.size(); i++) {
                NightGrid.Seen seen =
                        i < grid.size() && grid.sinAltitude(i, direction) >= sinLeast ? grid.seen(i, direction) : null;
                boolean up = seen != null && seen.up() && seen.altitudeDeg() >= wish.minimumAltitudeDeg();
                if (up) {
                    usable += grid.stepHours();
                    effective += grid.stepHours() * grid.weight(i, seen, direction, sky.light());
                    highest = Math.max(highest, seen.altitudeDeg());
                    if (grid.moonIsUp(i)) {
                        moonNear = Math.min(moonNear, grid.moonSeparationDeg(i, direction));
                    }
                    since = since < 0 ? i : since;
                } else if (since >= 0) {
                    Interval stretch = new Interval(grid.edge(since), grid.edge(i));
                    longest =
                            longest == null || stretch.duration().compareTo(longest.duration()) > 0 ? stretch : longest;
                    since = -1;
                }
            }
        }
        return usable == 0
                ? null
                : judged(
                        object, kit, wish, direction, new Time(usable, effective, highest, moonNear, longest, transit));
    }

    private record Time(
            double usable, double effective, double highest, double moonNear, Interval longest, Instant transit) {}

    private Candidate judged(DeepSkyObject object, Kit kit, Wish wish, double[] direction, Time time) {
        double shorter = 60 * Math.min(kit.fieldWidthDeg(), kit.fieldHeightDeg());
        double share = object.longAxisArcmin() / shorter;
        double pixels = object.longAxisArcmin() * 60 / kit.arcsecPerPixel();
        Candidate.Fit fit = KitChoice.fit(object, kit);
        OptionalDouble surface = surfaceBrightness(object);
        Candidate.Level level = Candidate.Level.of(object, surface);
        OptionalDouble star = brightStar(direction, kit.fieldRadiusDeg());
        double suits = fit.factor()
                * levelFactor(level, wish.level())
                * (TargetLight.of(object.kind()).seenBy(kit) ? 1 : 0.4)
                * (star.isPresent() && star.getAsDouble() < 3.5 ? 0.7 : 1)
                * size(pixels)
                * known(object);
        return new Candidate(
                object,
                time.usable(),
                time.effective(),
                Optional.ofNullable(time.longest()),
                time.highest(),
                time.transit(),
                time.moonNear(),
                fit,
                Math.max(0, share),
                surface,
                level,
                star,
                time.effective() * suits);
    }

    /** Between two objects that both fit, the larger shows more: full worth from 600 pixels on. */
    private static double size(double pixels) {
        return 0.4 + 0.6 * Math.min(1, pixels / 600);
    }

    /** Common objects first: what has a name or a number in the old catalogues has been seen to be worth it. */
    private static double known(DeepSkyObject object) {
        if (object.id().startsWith("M ") || !object.name().isEmpty()) {
            return 1;
        }
        return object.id().startsWith("NGC ") || object.id().startsWith("IC ") ? 0.8 : 0.4;
    }

    private static double levelFactor(Candidate.Level level, Candidate.Level wanted) {
        int beyond = level.ordinal() - wanted.ordinal();
        return beyond <= 0 ? 1 : beyond == 1 ? 0.35 : 0.1;
    }

    /**
     * Magnitude spread over the ellipse of the catalogue's axes: the mean surface brightness. Empty for nebulae that shine by others'
     * light or hide it: the catalogue's figure is then a star's or a class of opacity.
     */
    static OptionalDouble surfaceBrightness(DeepSkyObject object) {
        double a = object.longAxisArcmin();
        double b = object.shortAxisArcmin() > 0 ? object.shortAxisArcmin() : a;
        boolean ofItself = object.kind() != DeepSkyObject.Kind.DARK_NEBULA
                && object.kind() != DeepSkyObject.Kind.REFLECTION_NEBULA;
        if (object.magnitude().isEmpty() || a <= 0 || !ofItself) {
            return OptionalDouble.empty();
        }
        double area = Math.PI / 4 * a * b * ARCSEC2_PER_ARCMIN2;
        return OptionalDouble.of(object.magnitude().get() + 2.5 * Math.log10(area));
    }

    private OptionalDouble brightStar(double[] direction, double radiusDeg) {
        double reach = Math.cos(Math.toRadians(radiusDeg));
        for (int i = 0; i < brightDirections.length; i++) {
            if (Vectors.dot(direction, brightDirections[i]) > reach) {
                return OptionalDouble.of(brightStars.get(i).magnitude());
            }
        }
        return OptionalDouble.empty();
    }
}
