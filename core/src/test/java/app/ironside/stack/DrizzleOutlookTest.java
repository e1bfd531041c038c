package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.geom.Rectangle2D;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DrizzleOutlookTest {
    /**
     * By hand, drops of 0.7 leave gaps of 0.3 between them; on pixels of half a side a gap takes 0.15 of a row on average and 0.3² · 0.2 + 2 · 0.3³ / 3 =
     * 0.036 in squares. So a pixel is covered by 0.35 on average and 0.25 − 0.15 + 0.036 = 0.136 in squares, in two dimensions a light's share varies by
     * √(0.136² / 0.35⁴ − 1) = 0.482, and that of twelve by 0.139.
     */
    @Test
    void twelveLightsOnPixelsOfHalfTheSide() {
        DrizzleOutlook of = DrizzleOutlook.of(Drizzle.usual(2), 12, 1.9);
        assertThat(of.spread()).isCloseTo(0.1392, within(0.0002));
        assertThat(of.isEven()).isTrue();
        assertThat(of.sentence())
                .isEqualTo(
                        "12 lights dithered by chance would cover pixels 2 times as fine to within 14 %: evenly enough."
                                + " Stars of 1.90 px are narrow enough to gain.");
        // 0.482² / 0.2² = 5.8.
        DrizzleOutlook few = DrizzleOutlook.of(Drizzle.usual(2), 3, 3.1);
        assertThat(few.isEven()).isFalse();
        assertThat(few.lightsForEven()).isEqualTo(6);
        assertThat(few.isWorthwhile()).isFalse();
        assertThat(few.sentence()).contains("unevenly; 6 would do").contains("sampled well as they are");
    }

    /** Against squares that the JDK's geometry cuts, thrown by chance. */
    @ParameterizedTest
    @CsvSource({"2, 0.7, 8", "3, 0.5, 20", "1.5, 0.93, 5", "1, 1, 6", "4, 0.3, 30"})
    void whatIsReckonedIsWhatChanceGives(double scale, double drop, int lights) {
        SplittableRandom random = new SplittableRandom(7);
        Rectangle2D pixel = new Rectangle2D.Double(0, 0, 1 / scale, 1 / scale);
        double sum = 0;
        double squares = 0;
        int throwsMade = 20_000;
        for (int i = 0; i < throwsMade; i++) {
            double covered = 0;
            for (int light = 0; light < lights; light++) {
                double x = random.nextDouble();
                double y = random.nextDouble();
                for (int k = -1; k <= 1; k++) {
                    for (int l = -1; l <= 1; l++) {
                        Rectangle2D cut = pixel.createIntersection(new Rectangle2D.Double(x + k, y + l, drop, drop));
                        covered += cut.isEmpty() ? 0 : cut.getWidth() * cut.getHeight();
                    }
                }
            }
            sum += covered;
            squares += covered * covered;
        }
        double mean = sum / throwsMade;
        double spread = Math.sqrt(Math.max(0, squares / throwsMade - mean * mean)) / mean;
        assertThat(DrizzleOutlook.of(new Drizzle(scale, drop), lights, 2).spread())
                .isCloseTo(spread, within(0.03 * spread + 1e-6));
    }
}
