package app.ironside.wiring;

import app.ironside.Workers;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.plan.Reactions;
import app.ironside.sim.FaultTruth;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.UncheckedIOException;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import java.util.Random;

/** A rehearsed stretch of a night without pixels in which one thing goes wrong, its time and strength drawn by a seed. */
record Scenario(Optional<RehearsedFault> fault, long seed) {
    private static final Wiring WIRING = new Wiring(Workers.ALL_CORES);

    /** What a telescope touches it touches near the meridian; there the stretch lies later. */
    private static boolean nearMeridian(FaultKind kind) {
        return kind == FaultKind.CONTACT;
    }

    static Scenario clear(long seed) {
        return new Scenario(Optional.empty(), seed);
    }

    /** Of a kind, from 25 to 60 minutes after the first sub. */
    static Scenario of(FaultKind kind, long seed) {
        Random random = new Random(1000L * kind.ordinal() + seed);
        int minute = 25 + random.nextInt(30);
        LocalTime at = (nearMeridian(kind) ? LocalTime.of(21, 41) : LocalTime.of(19, 10))
                .plusMinutes(minute)
                .plusSeconds(random.nextInt(60));
        boolean strong = kind.strengthMeans().isPresent();
        double strength = strong ? kind.usualStrength() * (0.8 + 0.6 * random.nextDouble()) : 0;
        return new Scenario(
                Optional.of(new RehearsedFault(
                        kind,
                        at,
                        kind.usualMinutes() > 0
                                ? Optional.of((double) Math.min(60, kind.usualMinutes()))
                                : Optional.empty(),
                        strong
                                ? Optional.of(
                                        kind.strengthMeans().get().startsWith("share")
                                                ? Math.min(0.95, strength)
                                                : strength)
                                : Optional.empty())),
                seed);
    }

    NightFile file(String kit, Reactions reactions) throws Exception {
        ObjectNode night = FaultsTest.document(kit);
        ObjectNode program = (ObjectNode) night.at("/program");
        program.remove("fullFramesPerLeg");
        boolean late = fault.filter(f -> nearMeridian(f.kind())).isPresent();
        ((ObjectNode) night.at("/program/targets/0"))
                .put("from", late ? "21:15:00" : "19:05:00")
                .put("until", late ? "23:30:00" : "21:20:00");
        program.putObject("reactions")
                .put("refocus", reactions.refocus())
                .put("heat", reactions.heat())
                .put("guideAnew", reactions.guideAnew())
                .put("recentre", reactions.recentre())
                .put("nextTarget", reactions.nextTarget())
                .put("giveUpAfterMinutes", reactions.giveUp().minutes());
        NightFile file = NightFile.parse(new ObjectMapper().writeValueAsString(night), kit + ".json", WIRING.objects());
        SimSettings settings = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        return file.withObservatory(settings.withClouds(List.of())
                .withSeed(seed)
                .withFaults(fault.map(List::of).orElse(List.of())));
    }

    /** A stretch as it went. */
    record Gone(NightState state, List<FaultTruth> truth) {}

    Gone run(String kit, Reactions reactions) throws Exception {
        SwiftNight night = WIRING.swift(
                file(kit, reactions),
                new JournalInMemory(),
                SteppedClock::new,
                new NightWatcher() {},
                new NightControl());
        try {
            night.engine().run();
        } catch (UncheckedIOException full) {
            // A full disk ends the night; what was told of it is in the journal.
        }
        return new Gone(night.state(), night.observatory().faults());
    }
}
