package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.PowerBox;
import app.ironside.device.WeatherStation;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.kit.Equipment;
import app.ironside.kit.Kit;
import app.ironside.plan.NightBudget;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Reckons what the lights use up while they are taken, room on the disk and on the camera's card and the battery's charge, against the lights
 * that are still to come, and tells of what will run out in time to do something about it. Each is told once.
 */
public final class SuppliesWatch implements WatchedClock.Watch {
    private static final Duration LOOKED_AT_EVERY = Duration.ofMinutes(5);

    /** Who sleeps needs some minutes more before the walk for which the plan leaves time. */
    private static final Duration IN_TIME = NightBudget.IN_TIME.plusMinutes(15);

    /** From fewer lights nobody knows how fast they come. */
    private static final int ENOUGH_SUBS = 4;

    /** By so many of the latest lights it is told how fast they come. */
    private static final int LATEST_SUBS = 20;

    private final Kit kit;
    private final ZoneId zone;
    private final FrameArchive archive;
    private final Optional<PowerBox> power;
    private final Optional<WeatherStation> air;
    private final NightRecord record;
    private Instant looked = Instant.MIN;
    private double wattHours;
    private double coldestC = Double.POSITIVE_INFINITY;
    private int cards = 1;
    private boolean cardTold;
    private boolean diskTold;
    private boolean batteryTold;

    /**
     * @param zone of the clock that a person reads
     */
    public SuppliesWatch(
            Kit kit,
            ZoneId zone,
            FrameArchive archive,
            Optional<PowerBox> power,
            Optional<WeatherStation> air,
            NightRecord record) {
        this.kit = kit;
        this.zone = zone;
        this.archive = archive;
        this.power = power;
        this.air = air;
        this.record = record;
    }

    @Override
    public void look(Instant now) {
        if (!looked.equals(Instant.MIN) && now.isBefore(looked.plus(LOOKED_AT_EVERY))) {
            return;
        }
        draw(now);
        feel();
        looked = now;
        Optional<Instant> end = record.state().all(BlockPlanned.class).stream()
                .map(b -> b.span().until())
                .max(Comparator.naturalOrder())
                .filter(now::isBefore);
        if (end.isPresent()) {
            battery(now, end.get());
            List<SubTaken> subs = record.state().subs();
            if (subs.size() >= ENOUGH_SUBS) {
                room(now, end.get(), subs);
            }
        }
    }

    // ---- the battery
    // -----------------------------------------------------------------------------------------------

    /** What was drawn since the last look; before the first one, since the night began, by what the kit says of itself. */
    private void draw(Instant now) {
        Optional<Instant> began = record.state().events().stream().findFirst().map(e -> e.time());
        boolean first = looked.equals(Instant.MIN);
        Instant from = first ? began.orElse(now) : looked;
        double watts = first ? kit.equipment().meanWatts() : watts();
        wattHours += watts * Duration.between(from, now).toMillis() / 3_600_000.0;
    }

    private void feel() {
        try {
            air.map(WeatherStation::temperatureC)
                    .filter(OptionalDouble::isPresent)
                    .ifPresent(felt -> coldestC = Math.min(coldestC, felt.getAsDouble()));
        } catch (DeviceException silent) {
            return; // told by who asks the station for more than this
        }
    }

    /** As metered; without a meter, or where it is silent, what the kit says of itself. */
    private double watts() {
        try {
            return power.map(PowerBox::watts).orElseGet(kit.equipment()::meanWatts);
        } catch (DeviceException silent) {
            return kit.equipment().meanWatts();
        }
    }

    private void battery(Instant now, Instant end) {
        Optional<Double> rated = kit.equipment().supply().flatMap(Equipment.Supply::batteryWattHours);
        if (rated.isEmpty() || batteryTold) {
            return;
        }
        boolean felt = Double.isFinite(coldestC);
        double usable = NightBudget.usableWattHours(rated.get(), felt ? coldestC : NightBudget.RATED_AT_C);
        double left = usable - wattHours;
        double watts = Math.max(0.1, watts());
        Instant empty = now.plusMillis(Math.round(3_600_000 * Math.max(0, left) / watts));
        if (empty.isBefore(end) && empty.isBefore(now.plus(IN_TIME))) {
            batteryTold = true;
            tell(
                    Trouble.POWER,
                    "The battery has given %.0f Wh, %s, of %.0f that can be taken from it%s: at %.0f W it lasts until %s, and lights go on"
                            + " until %s. Have a full one ready, or end earlier; a battery that is run flat takes harm.",
                    wattHours,
                    power.isPresent() ? "measured" : "by the kit's own figures",
                    usable,
                    felt ? String.format(Locale.ROOT, " at %.0f °C", coldestC) : ", the cold not counted",
                    watts,
                    clock(empty),
                    clock(end));
        }
    }

    // ---- room
    // ------------------------------------------------------------------------------------------------------

    private void room(Instant now, Instant end, List<SubTaken> subs) {
        double bytes = NightBudget.frameBytes(kit);
        SubTaken first = subs.get(Math.max(0, subs.size() - LATEST_SUBS));
        double hours = Duration.between(first.exposed().from(), now).toMillis() / 3_600_000.0;
        double perHour = Math.min(subs.size(), LATEST_SUBS) / Math.max(0.01, hours);
        Optional<Double> card = kit.equipment().cardGigabytes();
        if (card.isPresent()) {
            double holds = 1e9 * card.get() / bytes;
            // More lights than a card holds: another one was put in, and this one is told of again.
            while (subs.size() > cards * holds) {
                cards++;
                cardTold = false;
            }
            double left = cards * holds - subs.size();
            Instant full = now.plusMillis(Math.round(3_600_000 * left / perHour));
            if (!cardTold && full.isBefore(end) && full.isBefore(now.plus(IN_TIME))) {
                cardTold = true;
                tell(
                        Trouble.DISK,
                        "The camera's card of %.0f GB has room for %.0f more lights, until %s; lights go on until %s. Have an empty one ready.",
                        card.get(),
                        left,
                        clock(full),
                        clock(end));
            }
            return;
        }
        if (!diskTold && archive.freeBytes().isPresent()) {
            double left = archive.freeBytes().getAsLong() / bytes;
            Instant full = now.plusMillis(Math.round(3_600_000 * left / perHour));
            if (full.isBefore(end)) {
                diskTold = true;
                tell(
                        Trouble.DISK,
                        "The disk has %.1f GB left, room for %.0f more lights, until %s; lights go on until %s. Free some room.",
                        archive.freeBytes().getAsLong() / 1e9,
                        left,
                        clock(full),
                        clock(end));
            }
        }
    }

    /** Hands are needed before light is lost: whoever sleeps is woken. */
    private void tell(Trouble trouble, String format, Object... values) {
        String words = String.format(Locale.ROOT, format, values);
        record.fault(Stage.RUN, words);
        record.tell(new AlertRaised(record.now(), words, trouble, true));
    }

    private String clock(Instant time) {
        return DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT).withZone(zone).format(time);
    }
}
