package app.ironside.solve;

import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Decides whether a candidate is the sky: it predicts where catalogue stars must stand in the frame and asks how likely it would
 * be for that many of them to meet a star of the frame by chance (a binomial tail, times the number of candidates tried).
 */
final class Verifier {
    /** Odds of a false answer, decimal logarithm: one in a billion. */
    private static final double WORST_LOG10_ODDS = -9;

    /** Searches that a frame is given at most: each may be wrong by this share of the odds only. */
    private static final int MOST_SEARCHES = 9;

    private static final int CATALOGUE_STARS = 80;
    private static final int FEWEST_MATCHES = 6;

    /** The catalogue thins out where the frame does not: its faint stars are far down the frame's list. */
    private static final int SEEN_PER_EXPECTED = 8;

    private static final int REFINING_STARS = 500;
    private static final double[] REFINING_REACHES_PX = {5, 2.5, 1.5};

    private static final double FIRST_REACH_SHARE = 0.004;
    private static final double LAST_REACH_PX = 1.5;

    private final StarField field;
    private final StarCatalogue catalogue;
    private final double year;

    /**
     * @param year Julian year of the frame, for stars that move
     */
    Verifier(StarField field, StarCatalogue catalogue, double year) {
        this.field = field;
        this.catalogue = catalogue;
        this.year = year;
    }

    /** Of a star's centroid, an axis: its width over its signal-to-noise ratio (King 1983, PASP 95, 163), a saturated one's more. */
    static double sigmaPx(Star star) {
        double sigma = star.fwhmPx() / 2.3548 / Math.max(1, star.snr());
        return star.saturated() ? sigma + 0.3 : sigma;
    }

    /** Whether a solution still stands when it is the best of so many candidates of one search among the few that a frame is given. */
    static boolean stands(PlateSolution solution, long tried) {
        return stands(solution.log10FalseOdds(), tried);
    }

    static boolean stands(double log10Odds, long tried) {
        return log10Odds + Math.log10((double) MOST_SEARCHES * Math.max(1, tried)) <= WORST_LOG10_ODDS;
    }

    /** The solution, if a candidate stands by itself; its odds are those of a single candidate. */
    Optional<PlateSolution> verify(Wcs candidate) {
        double diagonal = Math.hypot(field.width(), field.height());
        Wcs wcs = candidate;
        Optional<WcsFit.Result> fit = Optional.empty();
        double reach = Math.max(3, FIRST_REACH_SHARE * diagonal);
        double odds = 0;
        // Each round fits and looks closer, so that a true match gains and a chance one falls apart.
        while (true) {
            Equatorial centre = wcs.toSky((field.width() + 1) / 2.0, (field.height() + 1) / 2.0);
            List<CatalogueStar> expected = expected(wcs, centre, CATALOGUE_STARS);
            List<Star> seen =
                    field.stars().subList(0, Math.min(field.stars().size(), SEEN_PER_EXPECTED * expected.size() + 60));
            List<WcsFit.Match> matches = matchStars(wcs, expected, seen, reach);
            if (matches.size() < FEWEST_MATCHES) {
                return Optional.empty();
            }
            double chance =
                    Math.min(0.9, seen.size() * Math.PI * reach * reach / ((double) field.width() * field.height()));
            // Four matches came with the pattern and prove nothing.
            odds = log10Tail(expected.size() - 4, matches.size() - 4, chance);
            fit = WcsFit.fit(matches, field.width(), field.height(), centre);
            if (fit.isEmpty()) {
                return Optional.empty();
            }
            wcs = fit.get().wcs();
            if (reach <= LAST_REACH_PX) {
                break;
            }
            reach = Math.max(LAST_REACH_PX, reach / 2.5);
        }
        if (odds > WORST_LOG10_ODDS || fit.get().used().size() < FEWEST_MATCHES) {
            return Optional.empty();
        }
        return Optional.of(solution(refined(fit.get()), odds));
    }

    private PlateSolution solution(WcsFit.Result result, double odds) {
        Wcs wcs = result.wcs();
        Equatorial centre = wcs.toSky((field.width() + 1) / 2.0, (field.height() + 1) / 2.0);
        List<StarMatch> stars = result.used().stream()
                .map(m -> {
                    double[] p = wcs.toPixel(m.sky()).orElseThrow();
                    return new StarMatch(m.x(), m.y(), m.sky(), m.x() - p[0], m.y() - p[1]);
                })
                .toList();
        return new PlateSolution(centre, wcs, result.rmsArcsec(), odds, stars, List.of());
    }

    /** The solution of a match that stands, with more stars where they are in reach. */
    PlateSolution solution(Wcs wcs, List<WcsFit.Match> matches, double odds) {
        double squares = matches.stream()
                .mapToDouble(m -> Math.pow(3600 * wcs.toSky(m.x(), m.y()).separationDeg(m.sky()), 2))
                .sum();
        return solution(new WcsFit.Result(wcs, matches, Math.sqrt(squares / matches.size())), odds);
    }

    /** A candidate that stands is fitted to many more stars, further out and closer in turn, with distortion where they prove it. */
    private WcsFit.Result refined(WcsFit.Result first) {
        WcsFit.Result best = first;
        for (double reach : REFINING_REACHES_PX) {
            Equatorial centre = best.wcs().toSky((field.width() + 1) / 2.0, (field.height() + 1) / 2.0);
            List<CatalogueStar> expected = expected(best.wcs(), centre, REFINING_STARS);
            List<Star> seen =
                    field.stars().subList(0, Math.min(field.stars().size(), SEEN_PER_EXPECTED * expected.size() + 60));
            Optional<WcsFit.Result> next =
                    WcsFit.refine(matchStars(best.wcs(), expected, seen, reach), field.width(), field.height(), centre);
            if (next.isPresent()
                    && next.get().used().size() >= 0.8 * best.used().size()) {
                best = next.get();
            }
        }
        return best;
    }

    /** The brightest catalogue stars that should be in the frame. */
    private List<CatalogueStar> expected(Wcs wcs, Equatorial centre, int most) {
        double radius = Math.hypot(field.width(), field.height()) / 2 * wcs.scaleArcsecPerPixel() / 3600;
        List<CatalogueStar> inside = new ArrayList<>();
        for (int index : catalogue.indicesWithin(centre, Math.min(90, radius))) {
            CatalogueStar star = catalogue.star(index);
            Optional<double[]> pixel = wcs.toPixel(star.positionAt(year));
            if (pixel.isPresent() && inFrame(pixel.get())) {
                inside.add(star);
                if (inside.size() == most) {
                    break;
                }
            }
        }
        return inside;
    }

    private boolean inFrame(double[] pixel) {
        return pixel[0] >= 1 && pixel[1] >= 1 && pixel[0] <= field.width() && pixel[1] <= field.height();
    }

    private List<WcsFit.Match> matchStars(Wcs wcs, List<CatalogueStar> expected, List<Star> seen, double reach) {
        return match(wcs, expected.stream().map(s -> s.positionAt(year)).toList(), seen, reach);
    }

    /** Each expected place with the star of the frame that is nearest to it within a reach, each star once. */
    static List<WcsFit.Match> match(Wcs wcs, List<Equatorial> expected, List<Star> seen, double reach) {
        List<WcsFit.Match> matches = new ArrayList<>();
        boolean[] taken = new boolean[seen.size()];
        for (Equatorial place : expected) {
            double[] pixel = wcs.toPixel(place).orElseThrow();
            int best = -1;
            double nearest = reach * reach;
            for (int i = 0; i < taken.length; i++) {
                double dx = seen.get(i).x() - pixel[0];
                double dy = seen.get(i).y() - pixel[1];
                if (dx * dx + dy * dy < nearest && !taken[i]) {
                    best = i;
                    nearest = dx * dx + dy * dy;
                }
            }
            if (best >= 0) {
                taken[best] = true;
                Star met = seen.get(best);
                matches.add(new WcsFit.Match(met.x(), met.y(), place, sigmaPx(met)));
            }
        }
        return matches;
    }

    /** log10 of the chance of at least {@code hits} out of {@code trials}, each with probability {@code p}. */
    static double log10Tail(int trials, int hits, double p) {
        if (hits <= 0 || trials <= 0) {
            return 0;
        }
        if (hits > trials) {
            return log10Tail(hits, hits, p);
        }
        // Successive terms of the binomial, from the first; all logarithms, because the first may underflow.
        double term = logChoose(trials, hits) + hits * Math.log(p) + (trials - hits) * Math.log1p(-p);
        double sum = 0;
        double ratio = 1;
        for (int k = hits; k <= trials && ratio > 1e-12; k++) {
            sum += ratio;
            ratio *= (trials - k) / (k + 1.0) * p / (1 - p);
        }
        return Math.min(0, (term + Math.log(sum)) / Math.log(10));
    }

    private static double logChoose(int n, int k) {
        double sum = 0;
        for (int i = 1; i <= k; i++) {
            sum += Math.log((double) (n - k + i) / i);
        }
        return sum;
    }
}
