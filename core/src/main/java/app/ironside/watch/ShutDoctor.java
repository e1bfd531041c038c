package app.ironside.watch;

import app.ironside.journal.Trouble;
import app.ironside.judge.Cause;
import app.ironside.kit.Exposure;
import app.ironside.kit.Kit;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * A telescope into which nothing of the sky shines: its cap, a shut roof, a shutter that stays closed. Cloud takes the stars and leaves the light of
 * the sky, as it does with dew; here that is gone too.
 */
final class ShutDoctor {
    /** So much of the sky's own light is left at most. Cloud over a dark place takes half of it. */
    private static final double LEFT = 0.15;

    /** What a camera's zero wanders by from night to night is no small part of a fainter sky (common practice). */
    private static final double LEAST_SKY_ADU = 15;

    private final Course course;
    private final Kit kit;
    private final double skyMagPerArcsec2;

    /** @param skyMagPerArcsec2 of the site, for a night that has shown no sky yet */
    ShutDoctor(Course course, Kit kit, double skyMagPerArcsec2) {
        this.course = course;
        this.kit = kit;
        this.skyMagPerArcsec2 = skyMagPerArcsec2;
    }

    List<Finding> findings() {
        if (!isShut(course.last)) {
            return List.of();
        }
        double usual = usualAdu(course.last).orElseThrow();
        return List.of(course.found(
                course.from(this::isShut),
                Trouble.CAP,
                0.92,
                Course.text(
                        "No star, and %.0f ADU of the sky's light where %s %.0f: nothing shines into the telescope.",
                        Math.max(0, skyAdu(course.last)),
                        course.usualSkyAdu(course.last).isPresent()
                                ? "the subs before had"
                                : "this site, by the kit's own figures, has",
                        usual)));
    }

    private boolean isShut(int i) {
        if (course.sub(i).grade().cause() != Cause.NO_STARS || Double.isNaN(course.skyAdu(i))) {
            return false;
        }
        OptionalDouble usual = usualAdu(i);
        return usual.isPresent() && usual.getAsDouble() >= LEAST_SKY_ADU && skyAdu(i) < LEFT * usual.getAsDouble();
    }

    /** What the sky gave before in the same filter and time; else what the kit's figures promise of the site's. */
    private OptionalDouble usualAdu(int i) {
        OptionalDouble before = course.usualSkyAdu(i);
        return before.isPresent() ? OptionalDouble.of(before.getAsDouble() - darkAdu(i)) : promisedAdu(i);
    }

    private OptionalDouble promisedAdu(int i) {
        Optional<String> filter = course.sub(i).signs().map(Signs::filter);
        return kit.filters().stream()
                .filter(f -> filter.filter(f.name()::equals).isPresent())
                .mapToDouble(f -> Exposure.skyElectronsPerSecond(kit, f, skyMagPerArcsec2)
                        * seconds(i)
                        / kit.sensor().gainElectronsPerAdu())
                .findFirst();
    }

    private double skyAdu(int i) {
        return course.skyAdu(i) - darkAdu(i);
    }

    private double darkAdu(int i) {
        return course.sub(i)
                .signs()
                .flatMap(Signs::cooling)
                .map(c -> kit.sensor().darkElectronsPerSecondAt(c.sensorC())
                        * seconds(i)
                        / kit.sensor().gainElectronsPerAdu())
                .orElse(0.0);
    }

    private double seconds(int i) {
        return course.sub(i).grade().sub().exposureS();
    }
}
