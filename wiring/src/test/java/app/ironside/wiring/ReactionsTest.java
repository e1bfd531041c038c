package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.Command;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.LookedElsewhere;
import app.ironside.journal.Marks;
import app.ironside.journal.MountParked;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Reacted;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetLeft;
import app.ironside.journal.Trouble;
import app.ironside.journal.Verdict;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.plan.Reactions;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;

/** What a night does by itself about what is wrong, by the person's policy, and what that saves. */
class ReactionsTest {
    /** What a night can cure by itself: with perfect knowledge these would cost nothing. */
    private static final Set<FaultKind> CURABLE =
            Set.of(FaultKind.FOCUSER_SLIP, FaultKind.KNOCK, FaultKind.WRONG_GUIDE_STAR, FaultKind.FROST);

    /** Stars that swell at once are focused again, and the light after it is kept; told not to, the night only tells. */
    @Test
    void aSlippingFocuserIsFocusedAgain() throws Exception {
        Scenario scenario = Scenario.of(FaultKind.FOCUSER_SLIP, 3);
        NightState acts = scenario.run("wren", Reactions.USUAL).state();
        NightState tells = scenario.run("wren", Reactions.NONE).state();
        assertThat(acts.all(Reacted.class))
                .anyMatch(r -> r.trouble() == Trouble.SLIP && r.reaction() == Reacted.Reaction.REFOCUS);
        assertThat(tells.all(Reacted.class)).isEmpty();
        assertThat(tells.all(AlertRaised.class)).anyMatch(a -> a.wake() && a.trouble() == Trouble.SLIP);
        assertThat(acts.all(AlertRaised.class)).as("what helped wakes nobody").noneMatch(AlertRaised::wake);
        assertThat(acts.lightSeconds()).isGreaterThan(tells.lightSeconds() + 1200);
    }

    /** A person's patience ends: the target is given up and the mount parked long before the program would end. */
    @Test
    void nothingGoodForSoLongEndsInBed() throws Exception {
        ObjectNode night = FaultsTest.document("wren");
        ((ObjectNode) night.at("/program")).putObject("reactions").put("giveUpAfterMinutes", 20);
        ((ObjectNode) night.at("/program/targets/0")).put("from", "19:05:00").put("until", "23:00:00");
        ((ObjectNode) night.at("/observatory")).putArray("clouds");
        night.withObject("/observatory")
                .putArray("faults")
                .addObject()
                .put("kind", "cloud")
                .put("at", "19:30:00")
                .put("minutes", 300)
                .put("strength", 0.97);
        NightState state = run(night, new NightControl(), e -> {});
        Reacted end = state.last(Reacted.class).orElseThrow();
        assertThat(end.reaction()).isEqualTo(Reacted.Reaction.END_TARGET);
        assertThat(end.text()).contains("Nothing of M 33 was kept for 20 min");
        MountParked parked = state.last(MountParked.class).orElseThrow();
        assertThat(parked.time().atZone(java.time.ZoneId.of("Europe/Rome")).getHour())
                .isLessThan(21);
    }

    /** Patience by the window: four hours of cloud from half past seven on are left when as much was lost of the target's time as is left of it. */
    @Test
    void whatIsLeftOfItsTimeSaysHowLongItIsWaitedFor() throws Exception {
        ObjectNode night = FaultsTest.document("wren");
        ((ObjectNode) night.at("/program")).putObject("reactions").put("giveUpByWindow", true);
        ((ObjectNode) night.at("/program/targets/0")).put("from", "19:05:00").put("until", "21:30:00");
        ((ObjectNode) night.at("/observatory")).putArray("clouds");
        night.withObject("/observatory")
                .putArray("faults")
                .addObject()
                .put("kind", "cloud")
                .put("at", "19:30:00")
                .put("minutes", 300)
                .put("strength", 0.97);
        NightState state = run(night, new NightControl(), e -> {});
        Reacted end = state.last(Reacted.class).orElseThrow();
        assertThat(end.reaction()).isEqualTo(Reacted.Reaction.END_TARGET);
        assertThat(end.text()).contains("that are left, and it is as likely as not to last as long again");
        // Two hours were left when the cloud came.
        assertThat(end.time().atZone(java.time.ZoneId.of("Europe/Rome")).toLocalTime())
                .isBetween(java.time.LocalTime.of(20, 20), java.time.LocalTime.of(20, 40));
    }

    /** The Moon lights the sky to five times what it was: a person who allows twice has the target left after two such subs, and it stays left. */
    @Test
    void aTargetUnderABrightSkyIsLeft() throws Exception {
        ObjectNode night = FaultsTest.document("wren");
        ((ObjectNode) night.at("/program")).putObject("reactions").put("leaveAboveSky", 2);
        ((ObjectNode) night.at("/program/targets/0")).put("from", "19:05:00").put("until", "21:00:00");
        ((ObjectNode) night.at("/observatory")).putArray("clouds");
        night.withObject("/observatory")
                .putArray("faults")
                .addObject()
                .put("kind", "moon")
                .put("at", "19:50:00")
                .put("minutes", 120)
                .put("strength", 5);
        NightState state = run(night, new NightControl(), e -> {});
        assertThat(state.all(TargetLeft.class)).singleElement().satisfies(left -> {
            assertThat(left.why()).isEqualTo(TargetLeft.Why.BRIGHT_SKY);
            assertThat(left.text()).contains("the sky about it is too bright");
        });
        SubTaken last = state.last(SubTaken.class).orElseThrow();
        assertThat(last.time().atZone(java.time.ZoneId.of("Europe/Rome")).toLocalTime())
                .isBetween(java.time.LocalTime.of(19, 50), java.time.LocalTime.of(20, 10));
        assertThat(state.ended()).isTrue();
    }

    /** While cloud lies over the south it is looked whether a stand-in in the north is clear; it is taken, and the first again when its time is over. */
    @Test
    void whileCloudCoversOneTargetAClearOneIsTaken() throws Exception {
        ObjectNode night = halfClouded();
        NightState state = run(night, new NightControl(), e -> {});
        LookedElsewhere look = state.all(LookedElsewhere.class).get(0);
        assertThat(look.target()).isEqualTo("IC 342");
        assertThat(look.clear()).isTrue();
        assertThat(look.light()).isBetween(0.85, 1.0);
        assertThat(look.text()).contains("of the light of a clear sky: it is clear there");
        List<SubTaken> kept = state.subs().stream().filter(SubTaken::kept).toList();
        List<String> order = kept.stream().map(SubTaken::target).distinct().toList();
        assertThat(order).startsWith("M 33", "IC 342");
        assertThat(kept.stream().filter(s -> s.target().equals("IC 342")).count())
                .isGreaterThan(15);
        assertThat(kept.get(kept.size() - 1).target())
                .as("what was wanted first comes again")
                .isEqualTo("M 33");
        assertThat(state.all(TargetLeft.class)).anyMatch(l -> l.why() == TargetLeft.Why.CLOUDED);

        ((ObjectNode) night.at("/program")).putObject("reactions").put("elsewhereAfterMinutes", 0);
        NightState waits = run(night, new NightControl(), e -> {});
        assertThat(waits.all(LookedElsewhere.class)).isEmpty();
        assertThat(state.lightSeconds()).isGreaterThan(waits.lightSeconds() + 1200);
    }

    /** A target that is planned for later may stand in as well; what it has then counts when its own time comes. */
    @Test
    void whatStoodInHasWhatItWasGiven() throws Exception {
        ObjectNode night = halfClouded();
        ObjectNode later = ((ObjectNode) night.at("/program/standIns/0")).deepCopy();
        ((ObjectNode) night.at("/program")).remove("standIns");
        later.put("from", "01:30:00").put("until", "03:30:00").put("mostSubs", 30);
        ((com.fasterxml.jackson.databind.node.ArrayNode) night.at("/program/targets")).add(later);
        NightState state = run(night, new NightControl(), e -> {});
        List<SubTaken> taken =
                state.subs().stream().filter(s -> s.target().equals("IC 342")).toList();
        assertThat(state.all(LookedElsewhere.class)).anyMatch(LookedElsewhere::clear);
        assertThat(taken).hasSize(30);
        assertThat(taken.get(0)
                        .time()
                        .atZone(java.time.ZoneId.of("Europe/Rome"))
                        .getHour())
                .as("long before its own time")
                .isEqualTo(23);
    }

    /** Where cloud covers everything a look shows it, and the telescope goes back. */
    @Test
    void whereNothingIsClearItGoesBack() throws Exception {
        ObjectNode night = halfClouded();
        ((ObjectNode) night.at("/observatory/faults/0")).put("kind", "cloud");
        NightState state = run(night, new NightControl(), e -> {});
        assertThat(state.all(LookedElsewhere.class)).isNotEmpty().noneMatch(LookedElsewhere::clear);
        assertThat(state.subs()).extracting(SubTaken::target).containsOnly("M 33");
        assertThat(state.subs().get(state.subs().size() - 1).kept()).isTrue();
    }

    /** M 33 past the meridian in the south-west, cloud there for more than an hour, and a stand-in in the north. */
    private static ObjectNode halfClouded() throws Exception {
        ObjectNode night = FaultsTest.document("wren");
        ObjectNode first = (ObjectNode) night.at("/program/targets/0");
        ObjectNode other = first.deepCopy();
        first.put("from", "22:10:00").put("until", "01:30:00");
        other.put("name", "IC 342");
        other.remove(List.of("raDeg", "decDeg", "from", "until"));
        ((ObjectNode) night.at("/program")).putArray("standIns").add(other);
        ((ObjectNode) night.at("/observatory")).putArray("clouds");
        night.withObject("/observatory")
                .putArray("faults")
                .addObject()
                .put("kind", "half-cloud")
                .put("at", "22:50:00")
                .put("minutes", 80)
                .put("strength", 0.9);
        return night;
    }

    /** A target that is left early gives its time to the next one, which begins before it was planned to. */
    @Test
    void freedTimeIsUsed() throws Exception {
        ObjectNode night = FaultsTest.document("wren");
        ObjectNode second = ((ObjectNode) night.at("/program/targets/0")).deepCopy();
        second.put("name", "NGC 891").put("from", "21:10:00").put("until", "22:00:00");
        second.remove(List.of("raDeg", "decDeg"));
        ((ObjectNode) night.at("/program/targets/0")).put("from", "19:05:00").put("until", "21:10:00");
        ((com.fasterxml.jackson.databind.node.ArrayNode) night.at("/program/targets")).add(second);
        NightControl control = new NightControl();
        NightState state = run(night, control, e -> {
            if (e instanceof SubTaken sub
                    && sub.target().equals("M 33")
                    && sub.name().startsWith("Sub 4 ")) {
                control.give(new Command.SkipTarget(), "Ada", "a tree", sub.time());
            }
        });
        SubTaken first = state.subs().stream()
                .filter(s -> s.target().equals("NGC 891"))
                .findFirst()
                .orElseThrow();
        assertThat(first.time().atZone(java.time.ZoneId.of("Europe/Rome")).getHour())
                .isLessThan(21);
        assertThat(state.all(BlockPlanned.class)).anyMatch(b -> b.text().startsWith("Free time goes to NGC 891: "));
        long more =
                state.subs().stream().filter(s -> s.target().equals("NGC 891")).count();
        assertThat(more).as("hours instead of fifty minutes").isGreaterThan(60);
        assertThat(state.subsByTarget().get("M 33"))
                .as("what was skipped is not begun again")
                .isEqualTo(4);
    }

    /** What a person says of a sub while the night runs stands over the rule book, and is in the journal. */
    @Test
    void aSubIsMarkedWhileTheNightRuns() throws Exception {
        ObjectNode night = FaultsTest.document("wren");
        ((ObjectNode) night.at("/program/targets/0")).put("from", "19:05:00").put("until", "19:40:00");
        NightControl control = new NightControl();
        NightState state = run(night, control, e -> {
            if (e instanceof SubTaken sub && sub.name().startsWith("Sub 4 ")) {
                control.give(new Command.GiveVerdicts(Marks.mark(sub, false, "Ada")), "Ada", "a plane", sub.time());
            }
        });
        SubTaken fourth = state.subs().get(3);
        assertThat(fourth.verdict()).isEqualTo(Verdict.byHand(false, "left out by hand", "Ada"));
        assertThat(state.kept()).isEqualTo(state.subs().size() - 1);
        assertThat(state.events()).anyMatch(e -> e.text().startsWith("Ada: of 1 sub, 1 out (a plane)."));
    }

    private static NightState run(ObjectNode night, NightControl control, java.util.function.Consumer<NightEvent> heard)
            throws Exception {
        Wiring wiring = new Wiring(app.ironside.Workers.ALL_CORES);
        NightFile file = NightFile.parse(new ObjectMapper().writeValueAsString(night), "night.json", wiring.objects());
        SwiftNight swift = wiring.swift(
                file,
                new JournalInMemory(),
                SteppedClock::new,
                new NightWatcher() {
                    @Override
                    public void event(NightEvent event) {
                        heard.accept(event);
                    }
                },
                control);
        swift.engine().run();
        return swift.state();
    }

    /** What reactions save of what could be saved, over many nights; by hand, since it takes a while. */
    @Test
    @EnabledIfSystemProperty(named = "light.saved", matches = ".+")
    void lightSaved() throws Exception {
        int nights = Integer.getInteger("light.nights", 300);
        ExecutorService pool = Executors.newFixedThreadPool(2);
        List<Future<double[]>> runs = new ArrayList<>();
        Random random = new Random(20261114);
        for (int i = 0; i < nights; i++) {
            FaultKind kind = DiagnosisTest.CAUSES.get(random.nextInt(DiagnosisTest.CAUSES.size()));
            Scenario scenario = Scenario.of(kind, 1000 + i);
            Scenario perfect = CURABLE.contains(kind) ? new Scenario(Optional.empty(), scenario.seed()) : scenario;
            runs.add(pool.submit(() -> {
                double acts = scenario.run("wren", Reactions.USUAL).state().lightSeconds();
                double none = scenario.run("wren", Reactions.NONE).state().lightSeconds();
                double best = CURABLE.contains(kind)
                        ? perfect.run("wren", Reactions.NONE).state().lightSeconds()
                        : Math.max(acts, none);
                return new double[] {acts, none, best, kind.ordinal()};
            }));
        }
        double acts = 0;
        double none = 0;
        double best = 0;
        StringBuilder lines = new StringBuilder();
        for (Future<double[]> run : runs) {
            double[] r = run.get();
            acts += r[0];
            none += r[1];
            best += Math.max(r[2], Math.max(r[0], r[1]));
            if (r[0] != r[1]) {
                lines.append(String.format(
                        Locale.ROOT, "%s %.0f %.0f %.0f%n", FaultKind.values()[(int) r[3]].word(), r[0], r[1], r[2]));
            }
        }
        pool.shutdown();
        String text = String.format(
                Locale.ROOT,
                "%d nights: %.1f h kept with reactions, %.1f h without any, %.1f h with perfect knowledge: %.0f %% saved%n%s",
                nights,
                acts / 3600,
                none / 3600,
                best / 3600,
                100 * (acts - none) / (best - none),
                lines);
        Files.writeString(Path.of(System.getProperty("light.saved")), text);
        assertThat((acts - none) / (best - none)).isGreaterThan(0.75);
    }
}
