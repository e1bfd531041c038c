package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Examples;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Whatever a person does to a night, in whatever order, some laws hold. */
class NightDraftLawsTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();
    private static final NightDraft DEMO = NightDraft.of(Examples.night(OBJECTS));
    private static final List<String> MORE = List.of("NGC 891", "IC 342", "NGC 281", "NGC 7331", "NGC 6946");
    private static final int STEPS = 25;

    private static Instant in(Interval span, double share) {
        return span.from().plusMillis(Math.round(share * span.duration().toMillis()));
    }

    /** One step of a hand that does anything. */
    private static NightDraft step(NightDraft draft, Random random) {
        Interval night = draft.plan().times().night();
        List<PlannedBlock> blocks = draft.plan().blocks();
        int index = random.nextInt(blocks.size());
        Interval span = blocks.get(index).span();
        Duration by = Duration.ofMinutes(random.nextInt(181) - 90);
        return switch (random.nextInt(7)) {
            case 0 -> draft.move(
                    index, new Interval(span.from().plus(by), span.until().plus(by)));
            case 1 -> {
                Instant until = span.until().plus(by);
                yield until.isAfter(span.from().plusSeconds(900))
                        ? draft.move(index, new Interval(span.from(), until))
                        : draft;
            }
            case 2 -> draft.split(index, in(span, random.nextDouble()));
            case 3 -> blocks.size() > 1 ? draft.remove(index) : draft;
            case 4 -> {
                DeepSkyObject object =
                        OBJECTS.find(MORE.get(random.nextInt(MORE.size()))).orElseThrow();
                TargetPlan target = new TargetPlan(object.id(), object.position(), List.of("L"), 2, 120);
                Instant from = in(night, random.nextDouble());
                yield draft.add(target, new Interval(from, from.plusSeconds(1800 + random.nextInt(7200))));
            }
            case 5 -> draft.replace(index, blocks.get(index).target().withSubSeconds(30 * (1 + random.nextInt(20))));
            default -> draft.framed(
                    blocks.get(index).target().name(),
                    blocks.get(index).target().position(),
                    90 * random.nextDouble());
        };
    }

    private static void isANight(NightDraft draft) {
        List<PlannedBlock> blocks = draft.plan().blocks();
        for (int i = 0; i < blocks.size(); i++) {
            PlannedBlock block = blocks.get(i);
            assertThat(block.span().until()).isAfterOrEqualTo(block.span().from());
            assertThat(block.subs()).isNotNegative();
            assertThat(block.window().usable())
                    .as("each block lies in the dark, above the skyline")
                    .anyMatch(u -> !u.from().isAfter(block.span().from().plusSeconds(1))
                            && !u.until().isBefore(block.span().until().minusSeconds(1)));
            block.flip().ifPresent(f -> assertThat(block.span().contains(f)).isTrue());
            double light = 3600 * block.hoursOfLight();
            assertThat(light).isLessThanOrEqualTo(block.span().duration().toSeconds());
            if (i > 0) {
                assertThat(blocks.get(i - 1).span().until())
                        .as("one after the other")
                        .isBeforeOrEqualTo(block.span().from());
            }
        }
    }

    private static List<String> described(NightDraft draft) {
        return draft.plan().blocks().stream()
                .map(b -> b.target().name() + " " + b.subs() + " "
                        + b.span().from().getEpochSecond() / 2 + " "
                        + b.target().angleDeg())
                .toList();
    }

    /** On a usual night, on both nights on which clocks change, in June, and in the far north of the year. */
    @ParameterizedTest
    @CsvSource({"2026-11-14, 1", "2026-11-14, 2", "2026-10-24, 3", "2026-03-28, 4", "2026-06-20, 5", "2026-12-31, 6"})
    void anySequenceOfStepsLeavesANight(LocalDate date, long seed) {
        Random random = new Random(seed);
        History<NightDraft> history = new History<>(DEMO.onDate(date));
        List<NightDraft> seen = new ArrayList<>(List.of(history.now()));
        for (int i = 0; i < STEPS; i++) {
            if (history.now().plan().blocks().isEmpty()) {
                // Everything was pushed out of the dark: a hand takes that back.
                history.undo();
                seen.remove(seen.size() - 1);
                continue;
            }
            NightDraft next = step(history.now(), random);
            isANight(next);
            if (next != history.now()) {
                history.change(next);
                seen.add(next);
            }
        }
        assertThat(seen.size()).isGreaterThan(5);
        // The last draft, written and read, is the same night.
        NightDraft last = history.now();
        NightDraft read = NightDraft.of(NightFile.parse(last.file().text(), "draft.json", OBJECTS));
        assertThat(described(read)).isEqualTo(described(last));
        // All steps taken back and done again lead through the same nights.
        for (int i = seen.size() - 1; i > 0; i--) {
            assertThat(history.now()).isSameAs(seen.get(i));
            history.undo();
        }
        assertThat(history.now()).isSameAs(seen.get(0));
        assertThat(history.canUndo()).isFalse();
        while (history.canRedo()) {
            history.redo();
        }
        assertThat(history.now()).isSameAs(last);
    }
}
