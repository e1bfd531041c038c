package app.ironside.judge;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

/**
 * Verdicts on lights that share no code with Ironside: drawn by numpy and scipy, placed in the sky by astropy, packed by its Rice compression
 * (tools/graded-frames.py, which tells what was put in).
 */
class GradedFramesTest {
    private static final Path FOLDER = Path.of("src/test/resources/app/ironside/judge");

    private record Truth(Path file, Cause cause, boolean keep, double light, double weight, double altitudeDeg) {}

    private static List<Truth> truth() throws Exception {
        List<Truth> truth = new ArrayList<>();
        for (String line : Files.readAllLines(FOLDER.resolve("lights.csv")).subList(1, 13)) {
            String[] cells = line.split(",");
            Cause cause = java.util.Arrays.stream(Cause.values())
                    .filter(c -> c.word().equals(cells[1]))
                    .findFirst()
                    .orElseThrow();
            truth.add(new Truth(
                    FOLDER.resolve(cells[0]),
                    cause,
                    cells[2].equals("True"),
                    Double.parseDouble(cells[3]),
                    Double.parseDouble(cells[4]),
                    Double.parseDouble(cells[5])));
        }
        return truth;
    }

    private static List<Looks.Measured> measured(List<Truth> truth) {
        Looks looks = new Looks(new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.SERIAL));
        Looks.Found found =
                looks.measure(truth.stream().map(Truth::file).toList(), new Calibrator(Masters.NONE, 0), Progress.NONE);
        assertThat(found.unusable()).isEmpty();
        return found.measured();
    }

    /** Some 40 stars of 2 to 5 % each tell the light to 2 %, so that a weight is right to 5 % and, with the noise, a tenth of the best. */
    @Test
    void causesAndWeightsAreThoseThatWerePutIn() throws Exception {
        List<Truth> truth = truth();
        List<Grade> grades = Grader.grade(Looks.of(measured(truth)));
        for (int i = 0; i < truth.size(); i++) {
            Truth t = truth.get(i);
            Grade g = grades.get(i);
            assertThat(g.cause()).as("%s: %s", t.file(), g.reason()).isEqualTo(t.cause());
            assertThat(g.keep()).as("%s: %s", t.file(), g.reason()).isEqualTo(t.keep());
            assertThat(g.sub().altitudeDeg().orElseThrow()).isCloseTo(t.altitudeDeg(), within(0.1));
            if (t.cause() != Cause.FOCUS && t.cause() != Cause.WRONG_FIELD) {
                assertThat(g.transparency()).as("%s", t.file()).isCloseTo(t.light(), within(0.06));
                assertThat(g.weight()).as("%s", t.file()).isCloseTo(t.weight(), within(0.06));
            }
        }
        assertThat(Grader.collapse(grades)).as("low and dawn are no collapse").isEmpty();
        Grader.Choice all = Grader.keepAll(grades);
        Grader.Choice sharp = Grader.keepSharp(grades);
        assertThat(all.frames()).isEqualTo(11);
        assertThat(sharp.frames()).isEqualTo(7);
        assertThat(sharp.effectiveSeconds())
                .isCloseTo(
                        180
                                * truth.stream()
                                        .filter(Truth::keep)
                                        .mapToDouble(Truth::weight)
                                        .sum(),
                        within(40.0));
        assertThat(sharp.fwhmPx()).isLessThan(all.fwhmPx());
    }

    /** Law: the order in which lights are given tells nothing; their times do. */
    @Test
    void theOrderOfFilesDoesNotMatter() throws Exception {
        List<Looks.Measured> measured = measured(truth());
        List<Looks.Measured> mixed = new ArrayList<>(measured);
        Collections.shuffle(mixed, new Random(4));
        List<Grade> straight = Grader.grade(Looks.of(measured));
        List<Grade> other = Grader.grade(Looks.of(mixed));
        for (Grade g : straight) {
            Optional<Grade> same = other.stream()
                    .filter(o -> o.sub().name().equals(g.sub().name()))
                    .findFirst();
            assertThat(same.orElseThrow().keep()).isEqualTo(g.keep());
            assertThat(same.orElseThrow().cause()).isEqualTo(g.cause());
        }
    }
}
