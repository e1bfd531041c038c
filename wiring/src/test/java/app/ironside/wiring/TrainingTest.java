package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.Command;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TroubleSeen;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import app.ironside.trainer.Debrief;
import app.ironside.trainer.Exercise;
import app.ironside.trainer.Exercises;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Exercises played by a person who does nothing, and by one who acts. */
class TrainingTest {
    private final Wiring wiring = new Wiring(Workers.ALL_CORES);

    private NightFile night(String exercise) throws Exception {
        NightFile base = NightFile.parse(CommandsTest.smallNight(60, 3), "small.json", wiring.objects());
        // The whole evening, so that an exercise has room.
        NightFile whole = base.withProgram(base.program()
                .withTargets(
                        base.program().date(),
                        base.program().targets().stream()
                                .map(t -> t.at(java.util.Optional.empty(), java.util.Optional.empty()))
                                .toList()));
        return Training.night(whole, Exercises.named(exercise).orElseThrow(), 7);
    }

    private NightState played(NightFile night, NightWatcher watcher, NightControl control) throws Exception {
        SwiftNight swift = wiring.swift(night, new JournalInMemory(), SteppedClock::new, watcher, control);
        swift.engine().run();
        return swift.state();
    }

    @Test
    void whoActsKeepsMoreThanWhoDoesNot() throws Exception {
        NightFile night = night("soft-at-once");
        Exercise exercise = Exercises.named("soft-at-once").orElseThrow();
        NightState idle = played(night, NightWatcher.NONE, new NightControl());
        assertThat(idle.all(TroubleSeen.class))
                .as("it keeps its opinion to itself")
                .isEmpty();
        assertThat(idle.all(AlertRaised.class)).isEmpty();
        NightControl control = new NightControl();
        NightWatcher person = new NightWatcher() {
            private boolean acted;

            @Override
            public void event(NightEvent event) {
                if (event instanceof SubTaken sub && !sub.kept() && !acted) {
                    acted = true;
                    control.give(new Command.Refocus(), "Ada", "soft", event.time());
                }
            }
        };
        NightState acting = played(night, person, control);
        Training training = new Training(wiring);
        Debrief poor = training.debrief(night, exercise, Set.of(FaultKind.SEEING), idle, Progress.NONE);
        Debrief good = training.debrief(night, exercise, Set.of(FaultKind.FOCUSER_SLIP), acting, Progress.NONE);
        assertThat(good.points()).as("%s", good.sentences()).isGreaterThanOrEqualTo(90);
        assertThat(poor.points()).as("%s", poor.sentences()).isLessThan(40);
        assertThat(poor.yours()).as("the same sky").isEqualTo(poor.untouched());
        assertThat(good.sentences())
                .anyMatch(s -> s.matches("At \\d\\d:\\d\\d: the focuser slips\\."))
                .anyMatch(s -> s.matches("It could be seen from \\d\\d:\\d\\d on, at Run, as a focuser that slips: .*"))
                .anyMatch(s -> s.startsWith("You said so: 50 of 50 points for naming it"))
                .anyMatch(s -> s.startsWith("While nobody acted each minute cost "))
                .anyMatch(s -> s.matches("You: \\d\\d:\\d\\d focus anew.*"))
                .anyMatch(s -> s.matches("The usual policy: \\d\\d:\\d\\d it focused again.*"));
        assertThat(poor.sentences()).contains("You did nothing after it.");
    }

    /** Patience is the answer to cloud: nobody can do better than wait. */
    @Test
    void whoWaitsForACloudLosesNothingByIt() throws Exception {
        NightFile night = night("fading");
        NightState idle = played(night, NightWatcher.NONE, new NightControl());
        Debrief told = new Training(wiring)
                .debrief(
                        night,
                        Exercises.named("fading").orElseThrow(),
                        Set.of(FaultKind.CLOUD, FaultKind.DEW),
                        idle,
                        Progress.NONE);
        assertThat(told.points())
                .as("all the light, and one named right and one wrong: %s", told.sentences())
                .isBetween(48, 52);
        assertThat(told.faultless()).isGreaterThan(told.untouched());
    }

    /** Each that ships can be read and is a night: what goes wrong lies within it. */
    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3})
    void exercisesOfEachGradeAreNights(int grade) throws Exception {
        assertThat(Exercises.ALL).hasSize(16).extracting(Exercise::id).doesNotHaveDuplicates();
        for (Exercise exercise : Exercises.ALL) {
            if (exercise.grade() == grade) {
                NightFile night = night(exercise.id());
                NightFile read = NightFile.parse(night.text(), "exercise", wiring.objects());
                assertThat(read.training()).isEqualTo(night.training());
                assertThat(read.sameNight(night)).isTrue();
                assertThat(exercise.faults()).allMatch(f -> f.afterMinutes() + 20 < Exercise.LENGTH.toMinutes());
            }
        }
    }
}
