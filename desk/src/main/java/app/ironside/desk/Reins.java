package app.ironside.desk;

import app.ironside.desk.night.CommandState;
import app.ironside.desk.parts.Words;
import app.ironside.desk.session.Nights;
import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import app.ironside.night.NightControl.GatePolicy;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;

/** What the person tells the night that runs: commands at its stations, and what its gates do. */
final class Reins {
    private final Nights nights;
    private final Map<Stage, GatePolicy> gates = new EnumMap<>(Stage.class);
    private final Questions questions;
    private final Runnable changed;

    /**
     * @param gates as they were set before
     * @param changed told when something was asked for
     */
    Reins(Nights nights, Map<Stage, GatePolicy> gates, Questions questions, Runnable changed) {
        this.nights = nights;
        this.gates.putAll(gates);
        this.questions = questions;
        this.changed = changed;
    }

    /** What is done about gates that are not passed. */
    Map<Stage, GatePolicy> gates() {
        return Map.copyOf(gates);
    }

    /**
     * What can be asked of the night that runs; of one that is only looked at, nothing.
     *
     * @param shown whether the night that runs is the one that is shown
     * @param changedPlan a program that could take the place of the one that runs
     */
    CommandState state(Stage station, boolean shown, Supplier<Optional<String>> changedPlan) {
        GatePolicy policy = gates.getOrDefault(station, GatePolicy.GO_ON);
        return nights.underWay()
                .filter(r -> shown)
                .map(r -> CommandState.of(station, r.control(), r.model().night(), r.now(), policy, changedPlan))
                .orElse(CommandState.idle(station, policy));
    }

    /** What ends the light of a night is asked for twice. */
    void command(CommandState.Offer offer, String why) {
        if (!offer.sure()) {
            give(offer, why);
            return;
        }
        String words = Words.capital(offer.command().words());
        questions.ask(
                words + "?",
                "No more lights are taken. The mount is parked; calibration frames, warm-up and stacks follow.",
                List.of(
                        new StartPane.Choice("no-command", "No, go on", questions::dismiss),
                        new StartPane.Choice("yes-command", words, () -> {
                            questions.dismiss();
                            give(offer, why);
                        })));
    }

    private void give(CommandState.Offer offer, String why) {
        nights.underWay().ifPresent(r -> {
            r.control().give(offer.command(), Nights.WHO, why, r.now());
            changed.run();
        });
    }

    /** Gives the night that runs a command; without one, or where somebody else runs it, nothing is done. */
    void give(Command command) {
        nights.underWay().filter(r -> !r.model().night().isWatched()).ifPresent(r -> r.control()
                .give(command, Nights.WHO, "", r.now()));
    }

    void setPolicy(Stage station, GatePolicy policy) {
        gates.put(station, policy);
        nights.running().ifPresent(r -> r.control().setPolicy(station, policy));
        changed.run();
    }
}
