package app.ironside.watch;

import app.ironside.journal.GuideFigures;
import app.ironside.journal.Trouble;
import app.ironside.kit.Kit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.hipparchus.stat.descriptive.DescriptiveStatistics;
import org.hipparchus.stat.regression.SimpleRegression;

/**
 * What moves the telescope or swells its stars, told by what guiding had to do: wind shakes from one exposure to the next, gears swing slowly in
 * right ascension, a cable pulls on both axes and ever more, a knock is one jump, and a mount that stands leaves the sky at its own rate.
 */
final class MotionDoctor {
    private static final double SWOLLEN = 1.22;
    private static final double SHARP = 1.12;
    private static final double SHAKEN_BY_AIR = 1.2;
    private static final double SHAKEN_BY_WIND = 1.7;

    /** Air that swells the stars shakes them too, but not so much. */
    private static final double SHAKEN_HARD = 2.6;

    /** A hot pixel does not even shake with the air. */
    private static final double FROZEN = 0.45;

    /** Declination over right ascension of a jump that the gear of the latter may have made. */
    private static final double ALONG_RA = 0.35;

    private static final double SWINGS = 1.7;

    /** So far from exposure to exposure no wind shakes a telescope: it runs away. */
    private static final double RUNS_AWAY_ARCSEC = 8;

    /** One way makes up so much of all the squares of a stretch. */
    private static final double ONE_JUMP = 0.5;

    private static final double SIDEREAL_ARCSEC_PER_S = 15.041;

    private static final double SOFT_GUIDE_STAR = 0.72;
    private static final double WARMER_C = 0.5;
    private static final double SAME_LIGHT = 0.9;

    /** The sky passes a telescope that stands still along right ascension; a knock goes anywhere. */
    private static final double ALONG_RA_DEG = 18;

    /** Nothing but a hand, a foot or a slipping clutch moves a field so far. */
    private static final double KNOCKED_ARCSEC = 40;

    /** A pull stands out of the gear's own swing by so many of its standard deviations. */
    private static final double STANDS_OUT = 5;

    private static final double LEAST_PULL_ARCSEC_PER_MIN = 4;
    private static final int FEWEST_FOR_PULL = 3;

    /** Steps of focus that nobody made. */
    private static final int STEPS_FROM_NOWHERE = 100;

    private static final double LEAST_CREEP_ARCSEC_PER_MIN = 0.4;
    private static final double SURE_CREEP = 6;
    private static final int FEWEST_FOR_CREEP = 6;

    private final Course course;
    private final Kit kit;

    MotionDoctor(Course course, Kit kit) {
        this.course = course;
        this.kit = kit;
    }

    List<Finding> findings() {
        List<Finding> found = new ArrayList<>();
        lostZero(found);
        guiding(found);
        boolean moved = found.stream()
                .anyMatch(f -> List.of(Trouble.WIND, Trouble.KNOCK, Trouble.MOUNT, Trouble.CONTACT, Trouble.WRONG_STAR)
                        .contains(f.trouble()));
        if (course.trails(course.last) && !moved) {
            trailed(found);
        } else if (swollen(course.last) && !moved) {
            swollen(found);
        }
        guideStar(found);
        if (!moved) {
            pulled(found);
            found.replaceAll(f -> f.trouble() == Trouble.GEAR && isPulled(found) ? f.with(Trouble.GEAR, 0.4) : f);
            if (found.stream().noneMatch(f -> f.trouble() == Trouble.GEAR)) {
                flexure(found);
            }
        }
        return found;
    }

    private Optional<GuideFigures.Effort> effort(int i) {
        return course.sub(i).signs().flatMap(s -> s.guiding().effort());
    }

    /** The focuser stands where nobody sent it. */
    private void lostZero(List<Finding> found) {
        for (int i = Math.max(1, course.last - 3); i <= course.last; i++) {
            Optional<Signs> now = course.sub(i).signs();
            Optional<Signs> before = course.sub(i - 1).signs();
            if (now.isPresent()
                    && before.isPresent()
                    && now.get().focusSteps().isPresent()
                    && before.get().focusSteps().isPresent()
                    && !now.get().focused()) {
                int steps = now.get().focusSteps().getAsInt()
                        - offset(now.get().filter())
                        - before.get().focusSteps().getAsInt()
                        + offset(before.get().filter());
                if (Math.abs(steps) >= STEPS_FROM_NOWHERE) {
                    found.add(course.found(
                            i,
                            Trouble.LOST_ZERO,
                            0.9,
                            Course.text(
                                    "The focuser tells of %d steps where it told of %d, and nobody moved it.",
                                    now.get().focusSteps().getAsInt(),
                                    before.get().focusSteps().getAsInt())));
                    return;
                }
            }
        }
    }

    private int offset(String filter) {
        return kit.filters().stream()
                .filter(f -> f.name().equals(filter))
                .mapToInt(f -> f.knownOffsetSteps())
                .findFirst()
                .orElse(0);
    }

    private boolean jumped(int i) {
        return effort(i)
                .filter(e -> e.jumpArcsec() > 4 * Math.max(1, usualShake(i)))
                .filter(e ->
                        e.jumpArcsec() * e.jumpArcsec() > ONE_JUMP * samples(i) * e.shakeArcsec() * e.shakeArcsec())
                .isPresent();
    }

    private int samples(int i) {
        return course.sub(i).signs().map(s -> s.guiding().samples().orElse(0)).orElse(0);
    }

    private double usualShake(int i) {
        double ratio = course.shake(i);
        return ratio > 0 ? course.shakeArcsec(i) / ratio : course.shakeArcsec(i);
    }

    /** The star leaves, and the main camera's stars are drawn out by it. */
    private boolean runsAway(int i) {
        boolean far = course.shakeArcsec(i) > RUNS_AWAY_ARCSEC
                || course.sub(i).signs().filter(s -> s.guiding().lost() > 2).isPresent();
        return far && course.trails(i);
    }

    /** Along right ascension the sky leaves a mount that stands; anywhere else it was knocked. */
    private void ranAway(List<Finding> found) {
        int from = course.from(this::runsAway);
        OptionalDouble away =
                course.sub(course.last).signs().map(Signs::trailFromRaDeg).orElse(OptionalDouble.empty());
        boolean alongRa = away.isEmpty() || away.getAsDouble() < ALONG_RA_DEG;
        double stands = !alongRa ? 0.05 : course.last > from ? 0.88 : away.isEmpty() ? 0.5 : 0.75;
        String sentence = SubsWatch.sentence(course.sub(course.last).grade().reason())
                + (away.isPresent()
                        ? Course.text(
                                " The guide star was lost to it; the trail lies %.0f° from right ascension.",
                                away.getAsDouble())
                        : " The guide star was lost to it.");
        Trouble still = course.standsStill();
        Finding mount = course.found(from, still, stands, sentence);
        found.add(mount);
        found.add(mount.with(still == Trouble.CONTACT ? Trouble.MOUNT : Trouble.CONTACT, Math.min(0.4, stands / 2)));
        found.add(mount.with(Trouble.KNOCK, alongRa ? 0.93 - stands : 0.88));
    }

    /** A star that goes along right ascension by as much as the sky turns is left behind by a mount that stands. */
    private void jumpedOnce(List<Finding> found, GuideFigures.Effort effort) {
        double turned = SIDEREAL_ARCSEC_PER_S * effort.seconds();
        double share = Math.abs(effort.jumpRaArcsec()) / turned;
        boolean bySky =
                share > 0.6 && share < 1.2 && Math.abs(effort.jumpDecArcsec()) < 0.25 * Math.abs(effort.jumpRaArcsec());
        String sentence = Course.text(
                "The guide star jumped by %.0f″ between two exposures%s.",
                effort.jumpArcsec(), bySky ? ", along right ascension and by as much as the sky turned" : "");
        boolean byGear = !bySky
                && course.last > 0
                && swings(course.last - 1)
                && Math.abs(effort.jumpDecArcsec()) < ALONG_RA * Math.abs(effort.jumpRaArcsec());
        Finding knock = course.found(course.last, Trouble.KNOCK, bySky ? 0.1 : byGear ? 0.2 : 0.85, sentence);
        if (byGear) {
            // A worm that swings takes the star along while nobody pulses: through a focus run, a dither, a slew.
            found.add(course.found(
                    course.last,
                    Trouble.GEAR,
                    0.75,
                    sentence
                            + Course.text(
                                    " It lies along right ascension, in which the gear has swung %.1f times as far as before.",
                                    largestSwing())));
        }
        if (bySky) {
            Trouble still = course.standsStill();
            found.add(knock.with(still, 0.7));
            found.add(knock.with(still == Trouble.CONTACT ? Trouble.MOUNT : Trouble.CONTACT, 0.35));
        }
        found.add(knock);
    }

    private double moved(int i) {
        return course.sub(i).signs().map(Signs::movedArcsec).orElse(0.0);
    }

    /** A pull that begins swings the star once; a gear goes on swinging it. */
    private static boolean isPulled(List<Finding> found) {
        return found.stream()
                .anyMatch(f -> List.of(Trouble.BALANCE, Trouble.RATE).contains(f.trouble()) && f.certainty() >= 0.6);
    }

    private boolean shaken(int i) {
        double least = course.size(i) > SWOLLEN ? SHAKEN_HARD : SHAKEN_BY_WIND;
        return course.shake(i) > least && !jumped(i) && !runsAway(i);
    }

    private void guiding(List<Finding> found) {
        if (course.calm(course.last) < FROZEN && samples(course.last) >= 5) {
            found.add(course.found(
                    course.from(i -> course.calm(i) < FROZEN),
                    Trouble.WRONG_STAR,
                    0.92,
                    Course.text(
                            "The guide star moves only %.2f″ from exposure to exposure, %.0f %% of what the air made it move before: a star cannot.",
                            course.shakeArcsec(course.last), 100 * course.calm(course.last))));
        } else if (runsAway(course.last)) {
            ranAway(found);
        } else if (jumped(course.last)) {
            jumpedOnce(found, effort(course.last).orElseThrow());
        } else if (moved(course.last) > KNOCKED_ARCSEC) {
            found.add(course.found(
                    course.last,
                    Trouble.KNOCK,
                    0.86,
                    Course.text("The field jumped by %.0f″ between two subs.", moved(course.last))));
        } else if (shaken(course.last)) {
            Finding wind = course.found(
                    course.from(this::shaken),
                    Trouble.WIND,
                    0.9,
                    Course.text(
                            "The guide star shakes %.1f times as much from exposure to exposure as it did.",
                            course.shake(course.last)));
            found.add(wind);
            found.add(wind.with(Trouble.SEEING, 0.07));
        } else if (swings(course.last)) {
            Finding gear = course.found(
                    course.from(this::swings),
                    Trouble.GEAR,
                    0.82,
                    Course.text(
                            "Guiding errs up to %.1f times as much in right ascension as before and not in declination, slowly to and fro.",
                            largestSwing()));
            found.add(gear);
            found.add(gear.with(Trouble.CABLE, 0.1));
        }
    }

    /** A worm swings to and fro: where it turns it seems to stand for a while. */
    private boolean swings(int i) {
        int swung = 0;
        for (int k = i; k >= 0 && isWithinATurn(k, i); k--) {
            if (course.swing(k) > SWINGS
                    && course.decError(k) < 1.5
                    && course.shake(k) < SHAKEN_BY_WIND
                    && !course.trails(k)) {
                swung++;
            }
        }
        return swung >= 2 && course.shake(i) < SHAKEN_BY_WIND;
    }

    private boolean isWithinATurn(int k, int i) {
        return course.minutes(k, i) <= Math.max(kit.equipment().wormSeconds() / 60, 1);
    }

    private double largestSwing() {
        double largest = 0;
        for (int k = course.last; k >= 0 && isWithinATurn(k, course.last); k--) {
            largest = course.swing(k) > largest ? course.swing(k) : largest;
        }
        return largest;
    }

    private boolean swollen(int i) {
        return course.size(i) > SWOLLEN && !course.trails(i);
    }

    private void swollen(List<Finding> found) {
        int from = course.from(this::swollen);
        String sizes = Course.text("Stars are %.2f times as wide as the better ones before.", course.size(course.last));
        double shake = shakeSince(from);
        if (shake > SHAKEN_BY_AIR) {
            Finding air = course.found(
                    from,
                    Trouble.SEEING,
                    0.85,
                    sizes + Course.text(" The guide star too moves %.1f times as much.", shake));
            found.add(air);
            found.add(air.with(Trouble.SLIP, 0.1));
            return;
        }
        boolean calm = !Double.isNaN(shake);
        if (onlyThisFilter()) {
            Finding offset = course.found(
                    from, Trouble.FILTER_OFFSET, 0.8, sizes + " Those in the other filter beside it are sharp.");
            found.add(offset);
            found.add(offset.with(Trouble.SLIP, 0.12));
            return;
        }
        OptionalDouble moved = sinceFocus(course.last);
        double warmer = moved.orElse(0);
        boolean sudden = from > 0 && course.size(from - 1) < SHARP;
        Finding slip = course.found(
                from,
                Trouble.SLIP,
                calm ? 0.85 : 0.7,
                sizes + " They were sharp the sub before" + (calm ? "; the guide star moves as it did." : "."));
        if (sudden) {
            found.add(slip);
            found.add(slip.with(calm ? Trouble.FOCUS : Trouble.SEEING, calm ? 0.1 : 0.25));
        } else {
            Finding drift = course.found(
                    from,
                    Trouble.FOCUS,
                    warmer > WARMER_C ? 0.85 : 0.7,
                    sizes
                            + (moved.isPresent()
                                    ? Course.text(" The tube is %.1f °C from where it was focused.", warmer)
                                    : ""));
            found.add(drift);
            found.add(drift.with(calm ? Trouble.SLIP : Trouble.SEEING, 0.2));
        }
    }

    private double shakeSince(int from) {
        DescriptiveStatistics shakes = new DescriptiveStatistics();
        for (int i = from; i <= course.last; i++) {
            // Against what it was before the stars grew.
            double ratio = course.shakeArcsec(i) / (course.shakeArcsec(from) / course.shake(from));
            if (!Double.isNaN(ratio)) {
                shakes.addValue(ratio);
            }
        }
        return shakes.getN() == 0 ? Double.NaN : shakes.getPercentile(50);
    }

    /** By how much the tube's temperature has changed since it was focused; empty where nobody tells. */
    private OptionalDouble sinceFocus(int i) {
        OptionalDouble now = course.sub(i).signs().map(Signs::temperatureC).orElse(OptionalDouble.empty());
        OptionalDouble then = course.sub(i).signs().map(Signs::focusedAtC).orElse(OptionalDouble.empty());
        return now.isPresent() && then.isPresent()
                ? OptionalDouble.of(Math.abs(now.getAsDouble() - then.getAsDouble()))
                : OptionalDouble.empty();
    }

    /** Whether among the latest subs all of this filter are swollen, and those of another that lie between them are all sharp. */
    private boolean onlyThisFilter() {
        String filter = filter(course.last);
        int others = 0;
        for (int i = course.last; i >= Math.max(0, course.last - 8); i--) {
            boolean own = filter(i).equals(filter);
            if (own && !swollen(i) || !own && !(course.size(i) < SHARP)) {
                return false;
            }
            others += own ? 0 : 1;
            if (own && others > 0) {
                return true;
            }
        }
        return false;
    }

    private String filter(int i) {
        return course.sub(i).signs().map(Signs::filter).orElse("");
    }

    /** Drawn out though guiding held its star, or without any guiding: which way and how evenly tells why. */
    private void trailed(List<Finding> found) {
        SubsWatch.trailed(course.subs, found);
    }

    private boolean softStar(int i) {
        return course.guideStar(i) < SOFT_GUIDE_STAR && !(course.light(i) < SAME_LIGHT);
    }

    private void guideStar(List<Finding> found) {
        if (softStar(course.last) && found.stream().noneMatch(f -> f.trouble() == Trouble.WRONG_STAR)) {
            Finding soft = course.found(
                    course.from(this::softStar),
                    Trouble.GUIDE_FOCUS,
                    0.7,
                    Course.text(
                            "The guide star has %.0f %% of its signal, while the main camera's stars have all their light.",
                            100 * course.guideStar(course.last)));
            found.add(soft);
            found.add(soft.with(Trouble.GUIDE_STAR, 0.2));
        }
    }

    /** A steady pull that guiding makes good, arcseconds a minute. */
    private record Pull(int from, double ra, double dec, boolean grows, double sureRa, double sureDec) {}

    private void pulled(List<Finding> found) {
        pull().ifPresent(p -> {
            boolean ra = p.sureRa() > STANDS_OUT && Math.abs(p.ra()) > LEAST_PULL_ARCSEC_PER_MIN;
            boolean dec = p.sureDec() > STANDS_OUT && Math.abs(p.dec()) > LEAST_PULL_ARCSEC_PER_MIN;
            String sentence = Course.text(
                    "Guiding makes good %.0f″ a minute in right ascension and %.0f″ in declination that were not there before%s.",
                    Math.abs(p.ra()), Math.abs(p.dec()), p.grows() ? ", and more from sub to sub" : "");
            if (dec && (ra || p.grows())) {
                add(found, p, sentence, Trouble.CABLE, 0.75, Trouble.POLAR, 0.15);
            } else if (dec) {
                add(found, p, sentence, Trouble.POLAR, 0.6, Trouble.CABLE, 0.3);
            } else if (ra && p.grows()) {
                add(found, p, sentence, Trouble.CABLE, 0.5, Trouble.BALANCE, 0.4);
            } else if (ra && p.ra() < 0) {
                add(found, p, sentence, Trouble.RATE, steady(p), Trouble.BALANCE, 0.2);
            } else if (ra) {
                add(found, p, sentence, Trouble.BALANCE, steady(p), Trouble.RATE, 0.2);
            }
        });
    }

    /** The longer it stays the same, the surer it is no cable. */
    private double steady(Pull p) {
        return course.last - p.from() >= 6 ? 0.78 : 0.62;
    }

    private void add(
            List<Finding> found,
            Pull p,
            String sentence,
            Trouble first,
            double certainty,
            Trouble second,
            double other) {
        Finding finding = course.found(p.from(), first, certainty, sentence);
        found.add(finding);
        found.add(finding.with(second, other));
    }

    /** Where the mean of what guiding corrects changes most, if it changes for good. */
    private Optional<Pull> pull() {
        int[] guided = guided();
        double rate = kit.mount().guideArcsecPerSecond() / 1000;
        double[] ra =
                Arrays.stream(guided).mapToDouble(i -> course.raPull(i) * rate).toArray();
        double[] dec =
                Arrays.stream(guided).mapToDouble(i -> course.decPull(i) * rate).toArray();
        if (ra.length < 2 * FEWEST_FOR_PULL + 1) {
            return Optional.empty();
        }
        double[] minutes = Arrays.stream(guided)
                .mapToDouble(i -> course.minutes(guided[0], i))
                .toArray();
        double worm = kit.equipment().wormSeconds() / 60;
        Steps raSteps = new Steps(minutes, ra, worm);
        Steps decSteps = new Steps(minutes, dec, worm);
        Pull best = null;
        for (int cut = FEWEST_FOR_PULL + 1; cut <= ra.length - FEWEST_FOR_PULL; cut++) {
            Steps.Step raStep = raSteps.at(cut);
            Steps.Step decStep = decSteps.at(cut);
            if (best == null || Math.max(raStep.errors(), decStep.errors()) > Math.max(best.sureRa(), best.sureDec())) {
                boolean more = Math.hypot(mean(ra, cut, ra.length), mean(dec, cut, dec.length))
                        > Math.hypot(mean(ra, 0, cut), mean(dec, 0, cut));
                best = new Pull(
                        guided[cut],
                        raStep.height(),
                        decStep.height(),
                        grows(ra, cut) || grows(dec, cut),
                        more ? raStep.errors() : 0,
                        more ? decStep.errors() : 0);
            }
        }
        return Optional.ofNullable(best);
    }

    private int[] guided() {
        List<Integer> guided = new ArrayList<>();
        for (int i = 0; i <= course.last; i++) {
            if (!Double.isNaN(course.raPull(i))
                    && !course.trails(i)
                    && course.sub(i)
                            .signs()
                            .map(Signs::west)
                            .equals(course.sub(course.last).signs().map(Signs::west))) {
                guided.add(i);
            }
        }
        return guided.stream().mapToInt(Integer::intValue).toArray();
    }

    private static double mean(double[] values, int from, int until) {
        double sum = 0;
        for (int i = from; i < until; i++) {
            sum += values[i];
        }
        return sum / (until - from);
    }

    private static boolean grows(double[] values, int cut) {
        int half = (cut + values.length) / 2;
        double early = mean(values, cut, Math.max(cut + 1, half));
        double late = mean(values, half, values.length);
        double base = mean(values, 0, cut);
        return Math.abs(late - base) > 1.5 * Math.abs(early - base) && Math.abs(late - base) > 6;
    }

    /** Guiding holds its star, and the field creeps away all the same. */
    private void flexure(List<Finding> found) {
        for (int n = Math.min(24, course.last + 1); n >= FEWEST_FOR_CREEP; n = n > 12 ? 12 : n - 3) {
            Optional<Finding> creep = creep(course.last - n + 1);
            if (creep.isPresent()) {
                found.add(creep.get());
                return;
            }
        }
    }

    private Optional<Finding> creep(int from) {
        SimpleRegression x = new SimpleRegression();
        SimpleRegression y = new SimpleRegression();
        for (int i = from; i <= course.last; i++) {
            Watched sub = course.sub(i);
            if (sub.xArcmin().isPresent() && samples(i) > 0) {
                double minutes = course.minutes(from, i);
                x.addData(minutes, 60 * sub.xArcmin().getAsDouble());
                y.addData(minutes, 60 * sub.yArcmin().orElse(0));
            }
        }
        if (x.getN() < FEWEST_FOR_CREEP) {
            return Optional.empty();
        }
        double rate = Math.hypot(x.getSlope(), y.getSlope());
        double error = Math.hypot(x.getSlopeStdErr(), y.getSlopeStdErr());
        if (!(rate > LEAST_CREEP_ARCSEC_PER_MIN) || !(rate > SURE_CREEP * error)) {
            return Optional.empty();
        }
        return Optional.of(course.found(
                from,
                Trouble.FLEXURE,
                0.8,
                Course.text(
                        "The guide star is held and the field creeps %.1f″ a minute all the same, over %d subs.",
                        rate, x.getN())));
    }
}
