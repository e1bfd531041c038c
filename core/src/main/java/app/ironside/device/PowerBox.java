package app.ironside.device;

/** What feeds the kit, with a meter in it. */
public interface PowerBox extends Device {
    @Override
    default String name() {
        return "power box";
    }

    /** Switches the dew heaters. */
    void heat(boolean on);

    /** What the heaters draw now, watts. */
    double heaterWatts();

    /** What everything draws now, watts. */
    double watts();

    /** Voltage at the kit. */
    double volts();
}
