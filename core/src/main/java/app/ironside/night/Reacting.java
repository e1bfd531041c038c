package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.PowerBox;
import app.ironside.journal.Reacted;
import app.ironside.journal.Reacted.Reaction;
import app.ironside.journal.Stage;
import app.ironside.journal.Trouble;
import app.ironside.plan.Reactions;
import app.ironside.plan.TargetPlan;
import app.ironside.watch.Case;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Does about a trouble what the person's policy lets the night do by itself, once in a while, and tells. */
final class Reacting {
    /** What did not help is not done again at once. */
    private static final Duration AGAIN_AFTER = Duration.ofMinutes(15);

    private static final Set<Trouble> OF_FOCUS =
            EnumSet.of(Trouble.FOCUS, Trouble.SLIP, Trouble.LOST_ZERO, Trouble.FILTER_OFFSET);
    private static final Set<Trouble> OF_WET_GLASS = EnumSet.of(Trouble.DEW, Trouble.FROST);
    private static final Set<Trouble> OF_PLACE = EnumSet.of(Trouble.KNOCK, Trouble.WRONG_FIELD);

    private final NightContext night;
    private final Pointing pointing;
    private final Focusing focusing;
    private final Guiding guiding;
    private final Map<Reaction, Instant> done = new EnumMap<>(Reaction.class);

    Reacting(NightContext night, Pointing pointing, Focusing focusing, Guiding guiding) {
        this.night = night;
        this.pointing = pointing;
        this.focusing = focusing;
        this.guiding = guiding;
    }

    /** Acts on what is wrong; returns whether guiding has to be begun anew. */
    boolean act(Case wrong, TargetPlan target) throws InterruptedException {
        Trouble trouble = wrong.lead().trouble();
        Optional<Reaction> reaction = reaction(trouble, wrong.lead().losing());
        if (reaction.isEmpty() || recently(reaction.get())) {
            return false;
        }
        done.put(reaction.get(), night.clock().now());
        return switch (reaction.get()) {
            case REFOCUS -> refocus(trouble);
            case HEAT -> heat(trouble);
            case GUIDE_ANEW -> guideAnew(trouble);
            case RECENTRE -> recentre(trouble, target);
            default -> false;
        };
    }

    /** What the policy allows. */
    private Optional<Reaction> reaction(Trouble trouble, boolean losing) {
        Reactions may = night.program().reactions();
        if (may.refocus() && OF_FOCUS.contains(trouble)) {
            return Optional.of(Reaction.REFOCUS);
        }
        if (may.heat() && OF_WET_GLASS.contains(trouble)) {
            return Optional.of(Reaction.HEAT);
        }
        if (trouble == Trouble.WRONG_STAR && mayGuideAnew()) {
            return Optional.of(Reaction.GUIDE_ANEW);
        }
        if (may.recentre()
                && losing
                && OF_PLACE.contains(trouble)
                && night.kit().equipment().goTo()) {
            return Optional.of(Reaction.RECENTRE);
        }
        return Optional.empty();
    }

    /** Whether another star may be taken by itself. */
    boolean mayGuideAnew() {
        return night.program().reactions().guideAnew() && guiding.isFitted() && !recently(Reaction.GUIDE_ANEW);
    }

    private boolean recently(Reaction reaction) {
        return done.containsKey(reaction)
                && night.clock().now().isBefore(done.get(reaction).plus(AGAIN_AFTER));
    }

    private boolean refocus(Trouble trouble) throws InterruptedException {
        guiding.stop();
        boolean sure = focusing.fine(trouble.what());
        tell(trouble, Reaction.REFOCUS, sure ? "the run was believed" : "the run was not believed");
        return true;
    }

    private boolean heat(Trouble trouble) {
        Optional<PowerBox> power = night.devices().power();
        if (power.isEmpty()) {
            return false;
        }
        try {
            if (power.get().heaterWatts() > 0) {
                return false; // they are on, and do not suffice: a person is told
            }
            power.get().heat(true);
            tell(trouble, Reaction.HEAT, "glass takes some minutes to warm");
        } catch (DeviceException e) {
            night.record().fault(Stage.RUN, e);
        }
        return false;
    }

    private boolean guideAnew(Trouble trouble) {
        guiding.stop();
        guiding.shunStar();
        tell(trouble, Reaction.GUIDE_ANEW, "the place where the last one stood is left out");
        return true;
    }

    private boolean recentre(Trouble trouble, TargetPlan target) throws InterruptedException {
        guiding.stop();
        boolean centred = pointing.centre(target, night.devices().mount().pierSide());
        tell(trouble, Reaction.RECENTRE, centred ? "centred" : "further off than is allowed");
        return true;
    }

    private void tell(Trouble trouble, Reaction reaction, String outcome) {
        night.record()
                .tell(new Reacted(
                        night.record().now(),
                        String.format(Locale.ROOT, "For %s: %s; %s.", trouble.what(), reaction.words(), outcome),
                        trouble,
                        reaction));
    }
}
