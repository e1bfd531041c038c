package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Workers;
import app.ironside.device.NightClock;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.guide.GuideRules;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.FaultTold;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.Journal;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.LengthsTried;
import app.ironside.journal.MountParked;
import app.ironside.journal.NightState;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.logbook.EventCodec;
import app.ironside.logbook.EventRow;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** A night that is commanded while it runs: without pixels, which are not the point. */
@Order(2)
class CommandsTest {
    /** A thousand commands in fifty nights by hand. */
    private static final int NIGHTS = Integer.getInteger("commands.nights", 15);

    private static final int COMMANDS_A_NIGHT = 20;

    /** By name; a night that was parked goes on in the same one. */
    private final Map<String, Journal> journals = new HashMap<>();

    private final Wiring wiring = new Wiring(Workers.ALL_CORES);

    /** Coarse pixels over the same field, a quarter of the work; two filters, short subs, three quarters of an hour. */
    static String smallNight(int subSeconds, int ditherEvery) throws Exception {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(RehearsalTest.demo());
        ObjectNode sensor = (ObjectNode) night.at("/kit/sensor");
        sensor.put("widthPx", 1400).put("heightPx", 1050).put("pixelUm", 12.6);
        ObjectNode guider = (ObjectNode) night.at("/kit/guider");
        guider.put("widthPx", 640).put("heightPx", 480).put("pixelUm", 7.5);
        ObjectNode target = (ObjectNode) night.at("/program/targets/0");
        target.put("subSeconds", subSeconds).put("subsPerFilter", 2).put("until", "22:50:00");
        target.putArray("filters").add("L").add("R");
        ((ObjectNode) night.at("/program")).put("ditherEvery", ditherEvery).put("fullFramesPerLeg", 3);
        ObjectNode calibrations = (ObjectNode) night.at("/program/calibrations");
        calibrations.put("darks", 1).put("bias", 1).put("flatsPerFilter", 1);
        return json.writeValueAsString(night);
    }

    /** A command with when it is given, after the first sub began. */
    private record Timed(double minutes, Command command) {}

    /** Gives commands as time passes after the first sub began. */
    private static final class Script implements NightWatcher {
        private final List<Timed> left;
        private final NightControl control = new NightControl();
        private Optional<Instant> began = Optional.empty();

        Script(List<Timed> script) {
            this.left = new ArrayList<>(script);
        }

        @Override
        public void doing(Stage stage, String what, Instant since, Duration about) {
            if (began.isEmpty() && what.startsWith("Sub 1 ")) {
                began = Optional.of(since);
            }
        }

        NightClock clock(Instant start) {
            SteppedClock clock = new SteppedClock(start);
            return new NightClock() {
                @Override
                public Instant now() {
                    return clock.now();
                }

                @Override
                public void await(Duration time) throws InterruptedException {
                    clock.await(time);
                    while (began.isPresent() && !left.isEmpty() && isDue(left.get(0))) {
                        control.give(left.remove(0).command(), "Ada", "scripted", now());
                    }
                }

                private boolean isDue(Timed next) {
                    return !now().isBefore(began.get().plusMillis(Math.round(60_000 * next.minutes())));
                }
            };
        }
    }

    private NightState scripted(String name, List<Timed> commands) throws Exception {
        Script script = new Script(commands);
        return run(name, script::clock, script, script.control);
    }

    private NightState run(String name, Function<Instant, NightClock> clock, NightWatcher watcher, NightControl control)
            throws Exception {
        NightFile file = NightFile.parse(smallNight(60, 3), "small-night.json", wiring.objects());
        Journal journal = journals.computeIfAbsent(name, n -> new JournalInMemory());
        SwiftNight night = wiring.swift(file, journal, clock, watcher, control);
        night.engine().run();
        return night.state();
    }

    private static List<CommandTaken> taken(NightState night, Class<? extends Command> kind) {
        return night.all(CommandTaken.class).stream()
                .filter(c -> kind.isInstance(c.command()))
                .toList();
    }

    private static List<EventRow> rows(NightState night) {
        // How much room the disk has is the machine's affair.
        return night.events().stream()
                .map(EventCodec::write)
                .filter(r -> !r.text().startsWith("disk:"))
                .toList();
    }

    /** Each command does what it says, and the journal tells it; the same script gives the same journal. */
    @Test
    void everyCommandHasItsEffect() throws Exception {
        List<Timed> script = List.of(
                new Timed(0.5, new Command.EndSub(true)),
                new Timed(1.5, new Command.EndSub(false)),
                new Timed(2, new Command.Refocus()),
                new Timed(2.1, new Command.Recentre()),
                new Timed(2.2, new Command.DitherNow()),
                new Timed(2.3, new Command.StopGuiding()),
                new Timed(11, new Command.DitherNow()),
                new Timed(11.1, new Command.StartGuiding()),
                new Timed(13, new Command.CalibrateGuider()),
                new Timed(17, new Command.Hold()),
                new Timed(22, new Command.GoOn()),
                new Timed(22.1, new Command.SkipFilter()),
                new Timed(26, new Command.OneMore()),
                new Timed(26.1, new Command.Extend(Duration.ofMinutes(6))),
                new Timed(26.2, new Command.Replan(smallNight(60, 2))),
                new Timed(33, new Command.EndNight()));
        NightState night = scripted("once", script);
        assertThat(night.all(CommandTaken.class)).hasSize(script.size()).allMatch(c -> c.by().equals("Ada"));
        assertThat(night.subs().get(0).endedEarly()).isTrue();
        assertThat(night.subs().get(0).seconds()).isBetween(20.0, 40.0);
        assertThat(night.subs().stream().filter(SubTaken::endedEarly)).hasSize(1);
        assertThat(taken(night, Command.EndSub.class).get(1).text()).contains("is not kept");
        assertThat(night.all(FocusSwept.class)).anyMatch(f -> f.why().contains("asked for by Ada"));
        assertThat(night.all(TargetCentred.class)).hasSizeGreaterThanOrEqualTo(2);
        assertThat(night.subs())
                .as("unguided")
                .anyMatch(s -> s.guiding().samples().orElse(-1) == 0);
        assertThat(taken(night, Command.DitherNow.class))
                .extracting(CommandTaken::obeyed)
                .as("the second, without guiding, shifts the mount itself")
                .containsExactly(true, true);
        assertThat(night.all(GuiderCalibrated.class)).hasSize(2);
        Instant held = taken(night, Command.Hold.class).get(0).time();
        Instant goesOn = taken(night, Command.GoOn.class).get(0).time();
        assertThat(Duration.between(held, goesOn)).isGreaterThan(Duration.ofMinutes(2));
        assertThat(opened(night, held, goesOn)).isEmpty();
        Instant skipped = taken(night, Command.SkipFilter.class).get(0).time();
        Instant revised = night.last(ProgramRevised.class).orElseThrow().time();
        assertThat(opened(night, skipped, revised).stream()
                        .map(SubTaken::filter)
                        .distinct())
                .hasSize(1);
        Instant end = taken(night, Command.EndNight.class).get(0).time();
        assertThat(opened(night, revised, end)).hasSizeGreaterThan(2);
        assertThat(opened(night, end, Instant.MAX)).isEmpty();
        assertThat(night.ended()).isTrue();
        assertThat(rows(scripted("again", script))).isEqualTo(rows(night));
    }

    /** Subs whose shutter opened after one time and before another. */
    private static List<SubTaken> opened(NightState night, Instant after, Instant before) {
        return night.subs().stream()
                .filter(s ->
                        s.exposed().from().isAfter(after) && s.exposed().from().isBefore(before))
                .toList();
    }

    /** Parked at once, the night can go on, by the program that was in force. */
    @Test
    void aParkedNightGoesOnByTheProgramInForce() throws Exception {
        NightState parked = scripted(
                "parked",
                List.of(new Timed(3, new Command.Replan(smallNight(45, 3))), new Timed(8.3, new Command.ParkNow())));
        assertThat(parked.ended()).isFalse();
        assertThat(parked.last(MountParked.class).orElseThrow().text())
                .startsWith("The night was stopped by Ada. The mount is parked.");
        assertThat(parked.subs()).anyMatch(s -> s.seconds() == 60).anyMatch(s -> s.seconds() == 45);
        NightState whole = run("parked", SteppedClock::new, NightWatcher.NONE, new NightControl());
        assertThat(whole.ended()).isTrue();
        Instant stop = parked.events().get(parked.events().size() - 1).time();
        assertThat(opened(whole, stop, Instant.MAX)).isNotEmpty().allMatch(s -> s.seconds() == 45);
        assertThat(whole.subs()).containsAll(parked.subs());
    }

    /** Somebody who gives commands of every kind at any moment, and says go on when the night rests. */
    private static final class Person extends Thread {
        private final NightControl control;
        private final Random random;
        private final AtomicBoolean over = new AtomicBoolean();
        private final AtomicInteger given = new AtomicInteger();

        Person(NightControl control, long seed) {
            this.control = control;
            this.random = new Random(seed);
        }

        @Override
        public void run() {
            while (!over.get()) {
                try {
                    TimeUnit.MILLISECONDS.sleep(1 + random.nextInt(control.isHeld() ? 5 : 100));
                } catch (InterruptedException e) {
                    return;
                }
                boolean more = given.get() < COMMANDS_A_NIGHT;
                if (more || control.isHeld()) {
                    given.incrementAndGet();
                    control.give(more ? any(random) : new Command.GoOn(), "Ada", "", Instant.EPOCH);
                }
            }
        }
    }

    /** No night hangs, no sub is lost, each command is told once. */
    @Test
    void commandsAtAnyMomentLoseNothing() throws Exception {
        for (int n = 0; n < NIGHTS; n++) {
            NightControl control = new NightControl();
            Person person = new Person(control, n);
            person.start();
            String name = "random" + n;
            NightState night = run(name, SteppedClock::new, NightWatcher.NONE, control);
            for (int tries = 0; tries < COMMANDS_A_NIGHT && !night.ended(); tries++) {
                // It was parked: it goes on.
                night = run(name, SteppedClock::new, NightWatcher.NONE, control);
            }
            person.over.set(true);
            person.join();
            assertThat(night.ended()).as("night %d", n).isTrue();
            assertThat(night.all(CommandTaken.class).size() + control.waitingCount())
                    .as("each is told once, or came after the end")
                    .isEqualTo(person.given.get());
            Set<String> files = new HashSet<>();
            for (SubTaken sub : night.subs()) {
                assertThat(files.add(sub.file())).as("told once").isTrue();
            }
        }
    }

    /** A quarter, half, once and twice the planned minute; none of them is a sub, and reading costs less the longer they are. */
    @Test
    void lengthsAreTriedBetweenSubs() throws Exception {
        NightState night = scripted(
                "lengths",
                List.of(
                        new Timed(0.5, new Command.TryLengths()),
                        new Timed(1.5, new Command.StopGuiding()),
                        new Timed(9, new Command.TryLengths()),
                        new Timed(20, new Command.EndNight())));
        List<LengthsTried> tried = night.all(LengthsTried.class);
        assertThat(tried).hasSize(2);
        List<LengthsTried.Rung> guided = tried.get(0).rungs();
        assertThat(guided).extracting(LengthsTried.Rung::seconds).containsExactly(15.0, 30.0, 60.0, 120.0);
        assertThat(guided.get(3).readCost()).isLessThan(guided.get(0).readCost() / 4);
        assertThat(LengthsTried.longestRound(guided)).contains(guided.get(3));
        assertThat(tried.get(0).text()).startsWith("All are round, to 120 s");
        assertThat(taken(night, Command.TryLengths.class)).allMatch(CommandTaken::obeyed);
        assertThat(night.subs()).noneMatch(s -> s.seconds() == 15 || s.seconds() == 120);
    }

    /** The camera is lost on the second rung: the order was answered, once, and the night goes on to its end. */
    @Test
    void aCameraThatIsLostWhileLengthsAreTriedLosesNoOrder() throws Exception {
        List<Timed> script = List.of(new Timed(0.5, new Command.TryLengths()), new Timed(40, new Command.EndNight()));
        NightState whole = scripted("whole ladder", script);
        Instant began = taken(whole, Command.TryLengths.class).get(0).time();
        NightFile file = NightFile.parse(smallNight(60, 3), "small-night.json", wiring.objects());
        LocalTime at = began.plusSeconds(40).atZone(file.site().zone()).toLocalTime();
        SimSettings settings = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        Script again = new Script(script);
        SwiftNight night = wiring.swift(
                file.withObservatory(settings.withFaults(List.of(new RehearsedFault(FaultKind.CAMERA_LOST, at)))),
                new JournalInMemory(),
                again::clock,
                again,
                again.control);
        night.engine().run();
        assertThat(night.state().all(FaultTold.class)).anyMatch(f -> f.about().equals(Optional.of("camera")));
        assertThat(taken(night.state(), Command.TryLengths.class)).hasSize(1);
        assertThat(night.state().all(LengthsTried.class)).isEmpty();
        assertThat(night.state().kept()).isPositive();
        assertThat(night.state().ended()).isTrue();
    }

    static Command any(Random random) {
        return switch (random.nextInt(23)) {
            case 17 -> random.nextBoolean() ? new Command.TryLengths() : new Command.Note("a note");
            case 18 -> new Command.GuideBy(GuideRules.USUAL.withExposure(1 + random.nextInt(3)));
            case 19 -> new Command.PickGuideStar(random.nextInt(640), random.nextInt(480));
            case 20 -> new Command.WatchUnguided(1 + random.nextInt(3));
            case 21 -> new Command.CompareGuiding("exposures of 3 s", 2, Optional.of(GuideRules.USUAL.withExposure(3)));
            case 22 -> random.nextBoolean() ? new Command.MeasureOffsets() : new Command.MeasureFocuser();
            case 0 -> new Command.Hold();
            case 1, 2 -> new Command.GoOn();
            case 3 -> new Command.EndSub(true);
            case 4 -> new Command.EndSub(false);
            case 5 -> new Command.SkipFilter();
            case 6 -> new Command.OneMore();
            case 7 -> new Command.Extend(Duration.ofMinutes(1 + random.nextInt(5)));
            case 8 -> new Command.Refocus();
            case 9 -> new Command.Recentre();
            case 10 -> new Command.CalibrateGuider();
            case 11 -> new Command.StopGuiding();
            case 12 -> new Command.StartGuiding();
            case 13, 14 -> new Command.DitherNow();
            case 15 -> new Command.Overrule(Stage.values()[random.nextInt(10)]);
            default -> random.nextInt(3) == 0
                    ? new Command.SkipTarget()
                    : random.nextBoolean() ? new Command.ParkNow() : new Command.Replan("{}");
        };
    }
}
