package app.ironside.sim;

import app.ironside.device.PowerBox;
import app.ironside.kit.Equipment;
import app.ironside.kit.Equipment.Part;
import app.ironside.kit.Equipment.Supply;

/** Current as the kit's own figures have it, with a supply whose voltage sags under load. */
final class SimPowerBox extends SimDevice implements PowerBox {
    /** Resistance of leads and plugs, ohms. */
    private static final double LEADS_OHM = 0.06;

    private final Equipment equipment;
    private boolean heating;

    SimPowerBox(Equipment equipment) {
        super("power box");
        this.equipment = equipment;
    }

    @Override
    public void heat(boolean on) {
        mustAnswer();
        heating = on;
    }

    boolean isHeating() {
        return heating;
    }

    @Override
    public double heaterWatts() {
        mustAnswer();
        return heating ? heaters() : 0;
    }

    private double heaters() {
        return equipment.heaters().stream().mapToDouble(Part::peakWatts).sum();
    }

    @Override
    public double watts() {
        return equipment.idleWatts() + heaterWatts();
    }

    @Override
    public double volts() {
        double rated = equipment.supply().map(Supply::volts).orElse(12.0);
        return rated - watts() / rated * LEADS_OHM;
    }
}
