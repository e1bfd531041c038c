package app.ironside.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.sim.InventedField.Settings;
import app.ironside.star.DetectSettings;
import app.ironside.star.Moffat;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Star measurement against the truth of invented fields. The limits are the project's own promise. */
class StarMeasurementTest {
    private static final StarFinder FINDER = new StarFinder(DetectSettings.DEFAULT, Workers.ALL_CORES);

    private static InventedField.Score score(Settings settings) {
        InventedField field = InventedField.of(settings, Workers.ALL_CORES);
        List<double[]> measured = FINDER.find(field.frame()).stars().stream()
                .map(s -> new double[] {s.x(), s.y(), s.halfFluxRadiusPx(), s.snr()})
                .toList();
        return field.score(settings, measured, 10);
    }

    /** Sparse and crowded (a star to 2500 px), narrow and wide. */
    @ParameterizedTest
    @CsvSource({"400, 1.8, 1", "400, 3, 2", "400, 6, 3", "1200, 2.2, 4"})
    void completePureAndExact(int stars, double fwhm, long seed) {
        InventedField.Score score = score(
                Settings.DEFAULT.withSize(2000, 1500, stars).withFwhmPx(fwhm).withSeed(seed));
        assertThat(score.completeness()).isGreaterThanOrEqualTo(0.98);
        assertThat(score.purity()).isGreaterThanOrEqualTo(0.99);
        assertThat(score.centroidOverLimit()).isBetween(0.7, 1.2);
        assertThat(score.halfFluxBias()).isBetween(-0.03, 0.03);
    }

    /** Truth: β = 3 and a width of 4 px (the fit sees it through pixels, which widen it by a few hundredths). */
    @Test
    void theProfileIsFitted() {
        StarField field = FINDER.find(InventedField.of(
                        Settings.DEFAULT.withFwhmPx(4).withFaintestSnr(100).withSeed(6), Workers.ALL_CORES)
                .frame());
        assertThat(field.medianProfileFwhmPx().orElseThrow()).isBetween(3.95, 4.2);
        double[] beta = field.good().stream()
                .flatMap(s -> s.profile().stream())
                .mapToDouble(Moffat::beta)
                .sorted()
                .toArray();
        assertThat(beta[beta.length / 2]).isCloseTo(3, within(0.3));
    }

    /** Truth: axes 1 : 0.7 at 25°; eccentricity √(1 − 0.49) = 0.714, made rounder by pixels. */
    @Test
    void shapeAndDirectionAreFound() {
        StarField field = FINDER.find(InventedField.of(
                        Settings.DEFAULT
                                .withFwhmPx(5)
                                .withShape(0.7, 25)
                                .withFaintestSnr(60)
                                .withSeed(7),
                        Workers.ALL_CORES)
                .frame());
        assertThat(field.medianEccentricity().orElseThrow()).isCloseTo(0.714, within(0.04));
        double[] angles =
                field.good().stream().mapToDouble(Star::angleDeg).sorted().toArray();
        assertThat(angles[angles.length / 2]).isCloseTo(25, within(1.0));
    }

    /** Law: pulls of the fluxes, (measured − true) / error, scatter by about one for faint stars. */
    @Test
    void theFluxErrorIsTrue() {
        Settings settings =
                Settings.DEFAULT.withSize(2000, 1500, 300).withFaintestSnr(8).withSeed(8);
        InventedField field = InventedField.of(settings, Workers.ALL_CORES);
        List<Star> found = FINDER.find(field.frame()).stars();
        double[] pulls = field.stars().stream()
                .filter(t -> t.snr() > 12 && t.snr() < 80)
                .flatMap(t -> found.stream()
                        .filter(s -> Math.hypot(s.x() - t.x(), s.y() - t.y()) < 1)
                        .limit(1)
                        .map(s -> (s.fluxAdu() - t.fluxAdu()) / s.fluxErrorAdu()))
                .mapToDouble(Double::doubleValue)
                .toArray();
        assertThat(pulls).hasSizeGreaterThan(60);
        assertThat(app.ironside.image.Statistics.noise(pulls)).isBetween(0.5, 1.5);
    }

    @Test
    void holesInTheDataAreNoStarsAndSpoilNone() {
        Settings settings = Settings.DEFAULT.withFaintestSnr(30).withSeed(9);
        InventedField field = InventedField.of(settings, Workers.ALL_CORES);
        float[] holed = field.frame().pixels().clone();
        for (int row = 300; row < 420; row++) {
            for (int column = 500; column < 900; column++) {
                holed[row * settings.width() + column] = Float.NaN;
            }
        }
        StarField found = FINDER.find(new Frame(
                settings.width(), settings.height(), holed, field.frame().header()));
        assertThat(found.stars()).noneMatch(s -> s.x() > 503 && s.x() < 898 && s.y() > 303 && s.y() < 418);
        long inside = field.stars().stream()
                .filter(t -> t.x() > 490 && t.x() < 910 && t.y() > 290 && t.y() < 430)
                .count();
        assertThat(found.stars().size()).isGreaterThan((int) (field.stars().size() * 0.97 - inside));
    }
}
