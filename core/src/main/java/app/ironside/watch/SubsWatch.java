package app.ironside.watch;

import app.ironside.journal.Trouble;
import app.ironside.judge.Cause;
import app.ironside.judge.Grade;
import app.ironside.star.TrailCause;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import org.hipparchus.stat.regression.SimpleRegression;

/**
 * What the last subs of a night show to be wrong. Where two causes fit, both are told, each with its share of the certainty and the test that
 * tells them apart.
 */
public final class SubsWatch {
    /** Subs in a row that make a run of drawn-out stars; one is a gust. */
    private static final int RUN = 3;

    /** A field creeps if its way is so many times what it jumps about. */
    private static final double SURE_CREEP = 5;

    private static final double LEAST_CREEP_ARCMIN_PER_HOUR = 1;
    private static final int FEWEST_FOR_CREEP = 6;

    /** After so many usual intervals without a frame something has stopped. */
    private static final double SILENT_INTERVALS = 3;

    private static final double FEWEST_SILENT_SECONDS = 120;

    private SubsWatch() {}

    /**
     * What is wrong now.
     *
     * @param subs in time, of one target; those of earlier targets left out
     */
    public static List<Finding> findings(List<Watched> subs) {
        List<Finding> found = new ArrayList<>();
        if (subs.isEmpty()) {
            return found;
        }
        Grade last = subs.get(subs.size() - 1).grade();
        switch (last.cause()) {
            case CLOUD -> veil(subs, found, Trouble.CLOUD, Trouble.DEW);
            case DEW -> veil(subs, found, Trouble.DEW, Trouble.CLOUD);
            case FOCUS -> swollen(subs, found, Trouble.FOCUS, Trouble.SEEING);
            case SEEING -> swollen(subs, found, Trouble.SEEING, Trouble.FOCUS);
            case TRAILED -> trailed(subs, found);
            case TWILIGHT -> found.add(plain(subs, Trouble.TWILIGHT, 0.95));
            case MOONLIGHT -> found.add(plain(subs, Trouble.MOON, 0.95));
            case WRONG_FIELD -> found.add(plain(subs, Trouble.WRONG_FIELD, 0.9));
            case NO_STARS -> found.add(plain(subs, Trouble.NO_STARS, 0.9));
            default -> {}
        }
        creep(subs).ifPresent(found::add);
        found.sort(Comparator.comparingDouble(Finding::certainty).reversed());
        return found;
    }

    /** Where the run of subs with the last one's cause begins. */
    private static int runFrom(List<Watched> subs, Cause... causes) {
        int from = subs.size() - 1;
        while (from > 0 && List.of(causes).contains(subs.get(from - 1).grade().cause())) {
            from--;
        }
        return from;
    }

    private static Instant time(Watched sub) {
        return sub.grade().sub().time().orElse(Instant.EPOCH);
    }

    private static int lost(List<Watched> run) {
        return (int) run.stream().filter(w -> !w.grade().keep()).count();
    }

    private static boolean losing(List<Watched> subs) {
        return !subs.get(subs.size() - 1).grade().keep();
    }

    private static Finding plain(List<Watched> subs, Trouble trouble, double certainty) {
        Grade last = subs.get(subs.size() - 1).grade();
        List<Watched> run = subs.subList(runFrom(subs, last.cause()), subs.size());
        return new Finding(time(run.get(0)), trouble, certainty, sentence(last.reason()), lost(run), losing(subs));
    }

    static String sentence(String reason) {
        return Character.toUpperCase(reason.charAt(0)) + reason.substring(1) + ".";
    }

    /** Cloud comes and goes; dew comes and stays, and gives stars a halo: the longer steadily, the surer. */
    private static void veil(List<Watched> subs, List<Finding> found, Trouble first, Trouble second) {
        List<Watched> run = subs.subList(runFrom(subs, Cause.CLOUD, Cause.DEW, Cause.NO_STARS), subs.size());
        Grade last = subs.get(subs.size() - 1).grade();
        double other = first == Trouble.DEW ? 0.2 : isSteady(run) ? 0.35 : 0.08;
        String sentence = text(
                "%.0f %% of the light is left, over %d sub%s.",
                100 * last.transparency(), run.size(), run.size() == 1 ? "" : "s");
        found.add(new Finding(time(run.get(0)), first, 0.97 - other, sentence, lost(run), losing(subs)));
        found.add(new Finding(time(run.get(0)), second, other, sentence, lost(run), losing(subs)));
    }

    private static boolean isSteady(List<Watched> run) {
        boolean steady = run.size() >= 2;
        for (int i = 1; i < run.size(); i++) {
            steady &=
                    run.get(i).grade().transparency() <= run.get(i - 1).grade().transparency() * 1.03;
        }
        return steady;
    }

    private static void swollen(List<Watched> subs, List<Finding> found, Trouble first, Trouble second) {
        List<Watched> run = subs.subList(runFrom(subs, Cause.FOCUS, Cause.SEEING), subs.size());
        Grade last = subs.get(subs.size() - 1).grade();
        double other = first == Trouble.FOCUS ? (run.size() >= RUN ? 0.1 : 0.25) : (run.size() >= RUN ? 0.35 : 0.2);
        String sentence = sentence(last.reason());
        found.add(new Finding(time(run.get(0)), first, 0.97 - other, sentence, lost(run), losing(subs)));
        found.add(new Finding(time(run.get(0)), second, other, sentence, lost(run), losing(subs)));
    }

    static void trailed(List<Watched> subs, List<Finding> found) {
        List<Watched> run = subs.subList(runFrom(subs, Cause.TRAILED), subs.size());
        Grade last = subs.get(subs.size() - 1).grade();
        int before = found.size();
        for (TrailCause.Evidence e :
                TrailCause.of(subs.stream().map(SubsWatch::shape).toList(), OptionalDouble.empty())) {
            trouble(e.cause())
                    .ifPresent(t -> found.add(new Finding(
                            time(run.get(0)), t, Math.min(0.95, e.strength()), e.sentence(), lost(run), losing(subs))));
        }
        if (found.size() == before) {
            Trouble likely = run.size() >= RUN ? Trouble.CABLE : Trouble.WIND;
            found.add(new Finding(
                    time(run.get(0)),
                    likely,
                    0.6,
                    text("%s %d in a row.", sentence(last.reason()), run.size()),
                    lost(run),
                    losing(subs)));
        }
    }

    private static TrailCause.SubShape shape(Watched sub) {
        return new TrailCause.SubShape(
                time(sub),
                sub.trailing(),
                sub.trailAngleDeg(),
                sub.grade().sub().hfrPx(),
                sub.hourAngleDeg().orElse(0));
    }

    private static Optional<Trouble> trouble(TrailCause.Cause cause) {
        return switch (cause) {
            case POLAR_ALIGNMENT -> Optional.of(Trouble.POLAR);
            case PERIODIC_ERROR -> Optional.of(Trouble.GEAR);
            case CABLE_OR_CONTACT -> Optional.of(Trouble.CABLE);
            case WIND_OR_KNOCK -> Optional.of(Trouble.WIND);
            case FOCUS_OR_DEW -> Optional.empty();
        };
    }

    /** The field's middle moves on and on, whatever it jumps about by dithering. */
    private static Optional<Finding> creep(List<Watched> subs) {
        List<Watched> placed = subs.stream()
                .filter(s -> s.xArcmin().isPresent() && s.yArcmin().isPresent())
                .toList();
        if (placed.size() < FEWEST_FOR_CREEP) {
            return Optional.empty();
        }
        SimpleRegression x = new SimpleRegression();
        SimpleRegression y = new SimpleRegression();
        Instant first = time(placed.get(0));
        for (Watched sub : placed) {
            double hours = (time(sub).toEpochMilli() - first.toEpochMilli()) / 3_600_000.0;
            x.addData(hours, sub.xArcmin().getAsDouble());
            y.addData(hours, sub.yArcmin().getAsDouble());
        }
        double rate = Math.hypot(x.getSlope(), y.getSlope());
        double error = Math.hypot(x.getSlopeStdErr(), y.getSlopeStdErr());
        if (!(rate > LEAST_CREEP_ARCMIN_PER_HOUR) || !(rate > SURE_CREEP * error)) {
            return Optional.empty();
        }
        return Optional.of(new Finding(
                first,
                Trouble.POLAR,
                0.7,
                text(
                        "The field creeps %.1f\u2032 an hour, steadily over %d subs: the polar axis, or no guiding.",
                        rate, placed.size()),
                0,
                false));
    }

    /** What silence says: empty while frames come as they did. */
    public static Optional<Finding> silence(List<Watched> subs, Instant now) {
        if (subs.size() < 3) {
            return Optional.empty();
        }
        double[] gaps = new double[subs.size() - 1];
        for (int i = 1; i < subs.size(); i++) {
            gaps[i - 1] =
                    (time(subs.get(i)).toEpochMilli() - time(subs.get(i - 1)).toEpochMilli()) / 1000.0;
        }
        double usual = app.ironside.image.Statistics.median(gaps);
        Instant last = time(subs.get(subs.size() - 1));
        double since = (now.toEpochMilli() - last.toEpochMilli()) / 1000.0;
        if (since < Math.max(FEWEST_SILENT_SECONDS, SILENT_INTERVALS * usual)) {
            return Optional.empty();
        }
        return Optional.of(new Finding(
                last,
                Trouble.NO_FRAMES,
                0.9,
                text("No frame for %.0f min; they came every %.0f s.", since / 60, usual),
                0,
                true));
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
