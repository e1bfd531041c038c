package app.ironside.judge;

import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.sky.Observer;
import app.ironside.sky.SunAndMoon;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalDouble;

/** What the subs of a night show, from what the journal tells of them, for the rule book that judges all subs. */
public final class SubLooks {
    /** Fewer stars say nothing of a sub. */
    public static final int FEWEST_STARS = 8;

    private final SunAndMoon sky;

    /**
     * @param observer where the Sun and the Moon stand is told by
     */
    public SubLooks(Observer observer) {
        this.sky = new SunAndMoon(observer);
    }

    /** The name of a series. */
    public static String series(String target, String filter, double seconds, int widthPx) {
        return target + "\n" + filter + "\n" + seconds + "\n" + widthPx;
    }

    /** Of a sub in the journal. */
    public SubLook of(SubTaken taken) {
        return of(
                series(
                        taken.target(),
                        taken.filter(),
                        taken.seconds(),
                        taken.measures().widthPx()),
                taken.file(),
                taken.exposed().from().plusMillis(Math.round(500 * taken.seconds())),
                taken.seconds(),
                taken.measures(),
                taken.circumstances().altitudeDeg());
    }

    /**
     * Of one that is being judged.
     *
     * @param series its name
     * @param file by which it is known
     * @param middle of its exposure
     */
    public SubLook of(
            String series,
            String file,
            Instant middle,
            double seconds,
            SubMeasures measures,
            OptionalDouble altitudeDeg) {
        boolean starry = measures.stars() >= FEWEST_STARS && measures.hfrPx().isPresent();
        double flux = measures.starFluxAdu().orElse(0);
        return new SubLook(
                file,
                series,
                Optional.of(middle),
                seconds,
                starry ? measures.stars() : 0,
                measures.hfrPx().orElse(0),
                measures.fwhmPx().orElse(0),
                measures.eccentricity().orElse(0),
                measures.backgroundAdu(),
                measures.noiseAdu(),
                starry && flux > 0 ? OptionalDouble.of(flux) : OptionalDouble.empty(),
                1,
                altitudeDeg,
                OptionalDouble.of(sky.sun(middle).altitudeDeg()),
                OptionalDouble.of(sky.moon(middle).altitudeDeg()),
                OptionalDouble.of(sky.moonIlluminatedFraction(middle)));
    }
}
