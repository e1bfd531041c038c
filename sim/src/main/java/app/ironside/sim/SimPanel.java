package app.ironside.sim;

import app.ironside.Check;
import app.ironside.device.FlatPanel;
import app.ironside.kit.FilterSpec;

/** A flat panel on a hinge. */
final class SimPanel implements FlatPanel {
    /** Electrons a second and pixel at full brightness for each nanometre of a filter. */
    private static final double ELECTRONS_PER_S_NM = 900;

    private boolean open = true;
    private double brightness;

    @Override
    public void light(double wanted) {
        brightness = Check.inRange("brightness", wanted, 0, 1);
        open = false;
    }

    @Override
    public void cover() {
        brightness = 0;
        open = false;
    }

    @Override
    public void open() {
        brightness = 0;
        open = true;
    }

    boolean isOpen() {
        return open;
    }

    double electronsPerSecond(FilterSpec filter) {
        return brightness * ELECTRONS_PER_S_NM * filter.bandwidthNm();
    }
}
