package app.ironside.logbook;

import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.TroubleOver;
import app.ironside.sky.Interval;
import java.util.HashMap;
import java.util.Map;
import java.util.function.ToDoubleFunction;

/** Why light that was planned was not taken in a night, by what its journal tells. */
final class NotTaken {
    private static final double SECONDS_PER_HOUR = 3600;

    private final Map<String, Double> hours = new HashMap<>();
    private boolean byHand;
    private boolean ended;

    /**
     * Something that tells of it.
     *
     * @param exposed seconds of subs, kept or not, of the night in a stretch
     */
    void add(NightEvent event, ToDoubleFunction<Interval> exposed) {
        if (event instanceof TroubleOver over) {
            // Subs may go on under a trouble; what they took is not missing.
            Interval span = new Interval(over.time().minus(over.lasted()), over.time());
            double idle = over.lasted().toSeconds() - exposed.applyAsDouble(span);
            hours.merge(over.trouble().what(), Math.max(0, idle) / SECONDS_PER_HOUR, Double::sum);
        } else if (event instanceof CommandTaken taken && taken.obeyed()) {
            byHand |= taken.command() instanceof Command.EndNight
                    || taken.command() instanceof Command.ParkNow
                    || taken.command() instanceof Command.SkipTarget
                    || taken.command() instanceof Command.SkipFilter;
        } else if (event instanceof NightEnded) {
            ended = true;
        }
    }

    /**
     * The main reason.
     *
     * @param missing hours of light
     * @return empty if the journal tells none
     */
    String reason(double missing) {
        if (missing <= 0) {
            return "";
        }
        double told = hours.values().stream().mapToDouble(Double::doubleValue).sum();
        Map<String, Double> all = new HashMap<>(hours);
        if (byHand) {
            all.put("an end by hand", Math.max(0, missing - told));
        } else if (!ended) {
            all.put("a night that was broken off", Math.max(0, missing - told));
        }
        return all.entrySet().stream()
                .filter(e -> e.getValue() > 0)
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse("");
    }
}
