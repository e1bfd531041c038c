package app.ironside.watch;

import app.ironside.journal.Trouble;
import app.ironside.judge.Cause;
import app.ironside.solve.LightMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.IntStream;

/**
 * What takes light or adds it: air, glass, filter, sensor, lamps. The guide star tells the air from the main telescope's glass: cloud dims both,
 * dew on one front glass does not.
 */
final class LightDoctor {
    /** Light that is lost beyond the usual ups and downs. */
    private static final double DIM = 0.88;

    private static final double SUDDEN = 0.1;
    private static final double FLAT = 0.035;
    private static final int FEWEST_FLAT = 5;
    private static final double SPREAD_OUT = 1.2;

    /** No dew swells stars by so much from one sub to the next. */
    private static final double AT_ONCE = 0.15;

    private static final double WET_PERCENT = 92;

    /** A sky that is less cold than before by this has cloud in it. */
    private static final double WARMER_SKY_K = 5;

    /** Fog comes up over so many minutes; the edge of a cloud passes within two or three. */
    private static final double FOG_MINUTES = 5;

    private static final double FROSTED = 0.95;

    /** A filter changes the stars' light and the sky's alike. */
    private static final double ALIKE = 0.25;

    private static final double OTHER_FILTER = 0.18;
    private static final double BRIGHTER_SKY = 1.35;
    private static final double UNEVEN = 0.15;

    /** Twilight doubles the sky within minutes, and goes on doing so. */
    private static final double GROWING_A_SUB = 1.06;

    private static final double SPOT = 0.08;
    private static final double BROKEN = 0.08;

    private final Course course;
    private final boolean guideBehindMainOptics;

    LightDoctor(Course course, boolean guideBehindMainOptics) {
        this.course = course;
        this.guideBehindMainOptics = guideBehindMainOptics;
    }

    List<Finding> findings() {
        List<Finding> found = new ArrayList<>();
        Optional<LightMap> map = course.sub(course.last).signs().flatMap(Signs::light);
        if (map.filter(m -> m.emptyShare() >= BROKEN).isPresent()) {
            found.add(course.found(
                    course.from(
                            i -> light(i).filter(m -> m.emptyShare() >= BROKEN).isPresent()),
                    Trouble.BROKEN,
                    0.95,
                    Course.text(
                            "The last %.0f %% of the frame's rows are empty.",
                            100 * map.get().emptyShare())));
            return found;
        }
        if (otherFilter(course.last)) {
            otherFilter(found);
        } else if (isDim(course.last)) {
            dimmed(found, map);
        } else if (isFrosted(course.last)) {
            frost(found, map.orElseThrow(), 0.85);
        }
        map.filter(m -> m.spotShare() >= SPOT && found.isEmpty() && lay(m)).ifPresent(m -> spot(found, m));
        if (brighter(course.last) && !isDim(course.last)) {
            brightened(found);
        }
        return found;
    }

    private Optional<LightMap> light(int i) {
        return course.sub(i).signs().flatMap(Signs::light);
    }

    /** Of stars that are drawn out or swollen at once some light is not measured: that is no loss. */
    private boolean isDim(int i) {
        return course.light(i) < DIM && !course.trails(i) && (!swelledAtOnce(i) || guideDims(i));
    }

    private boolean guideDims(int i) {
        return !guideBehindMainOptics && course.guideStar(i) < DIM;
    }

    /** Whether the stars were sharp the sub before they were as wide as now. */
    private boolean swelledAtOnce(int i) {
        int from = i;
        while (from > 0 && course.size(from) > SPREAD_OUT) {
            from--;
        }
        return from < i && course.size(from + 1) - course.size(from) > AT_ONCE;
    }

    private boolean suddenly(int i) {
        return i > 0 && course.light(i - 1) - course.light(i) > SUDDEN;
    }

    private boolean isFrosted(int i) {
        return light(i).filter(m -> m.middleShare() < FROSTED).isPresent();
    }

    private void frost(List<Finding> found, LightMap map, double certainty) {
        found.add(course.found(
                course.from(this::isFrosted),
                Trouble.FROST,
                certainty,
                Course.text(
                        "The middle of the field has lost %.0f %% more light than its edge.",
                        100 * (1 - map.middleShare()))));
    }

    private void spot(List<Finding> found, LightMap map) {
        found.add(course.found(
                course.from(i -> light(i).filter(m -> m.spotShare() >= SPOT && same(m, map))
                        .isPresent()),
                Trouble.SPOT,
                0.85,
                Course.text(
                        "Stars at %.0f %% of the width and %.0f %% of the height have lost %.0f %% of their light, wherever the field is moved.",
                        100 * map.spotX(), 100 * map.spotY(), 100 * map.spotShare())));
    }

    /** Whether the two subs before showed it at the same place: noise does not come three times. */
    private boolean lay(LightMap map) {
        return IntStream.of(1, 2)
                .allMatch(back -> course.last >= back
                        && light(course.last - back)
                                .filter(b -> b.spotShare() >= 0.6 * SPOT && same(b, map))
                                .isPresent());
    }

    private static boolean same(LightMap a, LightMap b) {
        return Math.hypot(a.spotX() - b.spotX(), a.spotY() - b.spotY()) < 0.12;
    }

    /** Stars and sky have changed by the same factor, from one sub of this filter to the next. */
    private boolean otherFilter(int i) {
        double stars = Math.log(course.lightStep(i));
        double sky = Math.log(course.sky(i));
        return Math.abs(stars) > OTHER_FILTER
                && Math.abs(sky) > OTHER_FILTER
                && Math.signum(stars) == Math.signum(sky)
                && Math.abs(stars - sky) < Math.max(ALIKE, 0.3 * Math.abs(stars))
                && !(Math.abs(1 - course.guideStar(i)) > 0.15);
    }

    private void otherFilter(List<Finding> found) {
        int from = course.last;
        String filter = filter(course.last);
        while (from > 0 && (!filter(from - 1).equals(filter) || otherFilter(from - 1))) {
            from--;
        }
        while (!filter(from).equals(filter)) {
            from++;
        }
        String sentence = Course.text(
                "In the slot of %s stars and sky have both become %.2f times what they were, and the guide star has not.",
                filter, course.lightStep(course.last));
        found.add(course.found(from, Trouble.WRONG_FILTER, 0.9, sentence));
        found.add(course.found(from, Trouble.CLOUD, 0.08, sentence));
    }

    private String filter(int i) {
        return course.sub(i).signs().map(Signs::filter).orElse("");
    }

    private void dimmed(List<Finding> found, Optional<LightMap> map) {
        int from = course.from(i -> isDim(i) || Double.isNaN(course.light(i)));
        double light = course.light(course.last);
        int comparable = comparable(from);
        double guide = comparable < 0 ? Double.NaN : course.guideStar(comparable);
        boolean told = !Double.isNaN(guide);
        String star = told ? Course.text(" The guide star has %.0f %% of its signal.", 100 * guide) : "";
        String sentence = Course.text(
                        "%.0f %% of the light is left, over %d sub%s.",
                        100 * light, course.last - from + 1, course.last == from ? "" : "s")
                + star;
        boolean inTheAir = !told || 1 - guide >= 0.5 * (1 - course.light(comparable));
        if (isFrosted(course.last) && (!told || !inTheAir)) {
            frost(found, map.orElseThrow(), told ? 0.85 : 0.6);
            found.add(course.found(from, Trouble.DEW, 0.12, sentence));
        } else if (told && !inTheAir && (suddenly(from) && !swells() || isFlat(from))) {
            found.add(course.found(from, Trouble.WRONG_FILTER, 0.6, sentence));
            found.add(course.found(from, Trouble.DEW, 0.25, sentence));
        } else if (told && !inTheAir) {
            found.add(course.found(from, Trouble.DEW, swells() ? 0.88 : 0.7, sentence));
            found.add(course.found(from, Trouble.FROST, 0.08, sentence));
        } else if (told) {
            air(found, from, sentence);
        } else {
            unsure(found, from, sentence);
        }
    }

    /** The last of a run in which main and guide star can be compared: after a flip another star is guided on. */
    private int comparable(int from) {
        for (int i = course.last; i >= from && !guideBehindMainOptics; i--) {
            if (!Double.isNaN(course.guideStar(i)) && !course.trails(i)) {
                return i;
            }
        }
        return -1;
    }

    /** Whether the light of this filter stays where it fell to: wet glass gets wetter. */
    private boolean isFlat(int from) {
        String filter = filter(course.last);
        double lowest = 1;
        double highest = 0;
        int own = 0;
        for (int i = from; i <= course.last; i++) {
            if (filter(i).equals(filter) && !Double.isNaN(course.light(i))) {
                lowest = Math.min(lowest, course.light(i));
                highest = Math.max(highest, course.light(i));
                own++;
            }
        }
        return own >= FEWEST_FLAT && highest - lowest < FLAT;
    }

    private boolean swells() {
        return course.size(course.last) > 1.04;
    }

    private void air(List<Finding> found, int from, String sentence) {
        double fog = fogginess(from);
        Finding cloud = course.found(from, Trouble.CLOUD, 0.95 - 0.85 * fog, sentence);
        found.add(cloud);
        found.add(cloud.with(Trouble.FOG, 0.1 + 0.85 * fog));
    }

    /** 0 for what is surely cloud, 1 for what is surely fog: wet air, that comes up slowly and shines. */
    private double fogginess(int from) {
        Optional<Signs> signs = course.sub(course.last).signs();
        OptionalDouble humid = signs.map(Signs::humidityPercent).orElse(OptionalDouble.empty());
        boolean wet = humid.orElse(0) >= WET_PERCENT;
        boolean dry = humid.isPresent() && !wet;
        double minutes = course.minutes(from, course.last);
        double share = 0.2;
        share += wet ? 0.45 : dry ? -0.2 : 0;
        share += course.skyNoise(course.last) > 1.04 ? 0.25 : 0;
        share += slowly(from) ? 0.2 : minutes > FOG_MINUTES ? -0.15 : 0;
        share -= warmerSky(from) ? 0.15 : 0;
        return Math.max(0, Math.min(0.95, share));
    }

    /** Whether the light went over several subs, each a little. */
    private boolean slowly(int from) {
        double step = from > 0 ? course.light(from - 1) - course.light(from) : 0;
        return step < 0.12 && course.last > from && course.light(course.last) < course.light(from);
    }

    private boolean warmerSky(int from) {
        double now = course.sub(course.last)
                .signs()
                .map(Signs::skyColderByK)
                .orElse(OptionalDouble.empty())
                .orElse(0);
        double before = course.sub(Math.max(0, from - 1))
                .signs()
                .map(Signs::skyColderByK)
                .orElse(OptionalDouble.empty())
                .orElse(0);
        return before - now > WARMER_SKY_K;
    }

    /** Without a guide star to compare with: what comes steadily with growing stars is dew. */
    private void unsure(List<Finding> found, int from, String sentence) {
        boolean told = course.sub(course.last)
                .signs()
                .map(Signs::skyColderByK)
                .filter(OptionalDouble::isPresent)
                .isPresent();
        boolean wet = course.sub(course.last)
                        .signs()
                        .map(Signs::humidityPercent)
                        .orElse(OptionalDouble.empty())
                        .orElse(0)
                >= WET_PERCENT;
        boolean dew = course.sub(course.last).grade().cause() == Cause.DEW
                || swells() && (slowly(from) || !suddenly(from)) && course.size(course.last) > 1.06
                || told && wet && swells() && !warmerSky(from);
        double fog = fogginess(from);
        Finding cloud = course.found(from, Trouble.CLOUD, 0, sentence);
        found.add(cloud.with(Trouble.DEW, dew ? 0.75 : steady(from) ? 0.35 : 0.08));
        found.add(cloud.with(Trouble.CLOUD, (dew ? 0.2 : 0.88) * (1 - 0.8 * fog)));
        if (course.sub(course.last)
                .signs()
                .flatMap(s -> s.humidityPercent().isPresent() ? Optional.of(s) : Optional.empty())
                .isPresent()) {
            found.add(cloud.with(Trouble.FOG, dew ? 0.05 : 0.88 * 0.8 * fog));
        }
    }

    private boolean steady(int from) {
        boolean steady = course.last - from >= 1;
        for (int i = from + 1; i <= course.last; i++) {
            steady &= !(course.light(i) > course.light(i - 1) * 1.03);
        }
        return steady;
    }

    private boolean brighter(int i) {
        return course.skyNoise(i) > BRIGHTER_SKY || course.sky(i) > BRIGHTER_SKY * BRIGHTER_SKY;
    }

    private void brightened(List<Finding> found) {
        int from = course.from(this::brighter);
        var look = course.sub(course.last).grade().sub();
        double sun = look.sunAltitudeDeg().orElse(Double.NaN);
        double moon = look.moonAltitudeDeg().orElse(Double.NaN);
        double uneven = course.unevenness(course.last);
        boolean lamp = uneven > UNEVEN;
        boolean grows = grows(from);
        // A Moon that was up before the sky grew bright did not make it so.
        double moonBefore = from == 0
                ? -90
                : course.sub(from - 1).grade().sub().moonAltitudeDeg().orElse(-90);
        boolean moonUp = moon > -1 && look.moonShare().orElse(0) > 0.05 && moonBefore < moon - 3;
        boolean sunNear = sun > -18;
        String level = Course.text("The sky's noise is %.1f times the darkest", course.skyNoise(course.last));
        if (lamp) {
            Finding stray = course.found(
                    from,
                    Trouble.STRAY,
                    0.9,
                    level + Course.text(", and %.0f %% of the new light lies on one side.", 100 * uneven));
            found.add(stray);
            found.add(stray.with(moonUp ? Trouble.MOON : Trouble.TWILIGHT, 0.06));
        } else if (sunNear || grows) {
            String almanac = sunNear
                    ? Course.text(" with the Sun at %.0f°.", sun)
                    : " and grows from sub to sub as in twilight, though by the almanac the Sun is far below the horizon: look whether site, date and clock are right.";
            Finding twilight = course.found(from, Trouble.TWILIGHT, sunNear ? 0.95 : 0.6, level + almanac);
            found.add(twilight);
            found.add(twilight.with(moonUp ? Trouble.MOON : Trouble.STRAY, sunNear ? 0.03 : 0.3));
        } else {
            String almanac = moonUp
                    ? Course.text(" with the Moon at %.0f°.", moon)
                    : ", evenly over the field like moonlight, though by the almanac the Moon has not risen: look whether site, date and clock are right, and for lit haze.";
            Finding moonlit = course.found(from, Trouble.MOON, moonUp ? 0.92 : 0.55, level + almanac);
            found.add(moonlit);
            found.add(moonlit.with(Trouble.STRAY, moonUp ? 0.05 : 0.35));
        }
    }

    private boolean grows(int from) {
        if (course.last - from < 1) {
            return false;
        }
        int rising = 0;
        for (int i = from + 1; i <= course.last; i++) {
            rising += course.sky(i) > course.sky(i - 1) * GROWING_A_SUB ? 1 : -1;
        }
        return rising > 0;
    }
}
