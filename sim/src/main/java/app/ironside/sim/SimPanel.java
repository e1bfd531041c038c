package app.ironside.sim;

import app.ironside.Check;
import app.ironside.device.FlatPanel;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.Timed;
import app.ironside.kit.FilterSpec;
import java.time.Duration;

/** A flat panel on a hinge. */
final class SimPanel extends SimDevice implements FlatPanel {
    /** Electrons a second and pixel at full brightness for each nanometre of a filter. */
    private static final double ELECTRONS_PER_S_NM = 900;

    private static final Duration SWING = Duration.ofSeconds(4);

    private final NightClock clock;
    private boolean open = true;
    private double brightness;

    SimPanel(NightClock clock) {
        super("flat panel");
        this.clock = clock;
    }

    @Override
    public Operation light(double wanted) {
        return swing(false, Check.inRange("brightness", wanted, 0, 1));
    }

    @Override
    public Operation cover() {
        return swing(false, 0);
    }

    @Override
    public Operation open() {
        return swing(true, 0);
    }

    private Operation swing(boolean opened, double light) {
        mustAnswer();
        Duration takes = open == opened ? Duration.ZERO : SWING;
        open = opened;
        brightness = light;
        return new Timed(name(), "the swing of the panel", clock, takes, () -> {});
    }

    boolean isOpen() {
        return open;
    }

    double electronsPerSecond(FilterSpec filter) {
        return brightness * ELECTRONS_PER_S_NM * filter.passNm();
    }
}
