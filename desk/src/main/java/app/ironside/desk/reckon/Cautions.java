package app.ironside.desk.reckon;

import app.ironside.journal.Stage;
import app.ironside.point.GuardedMount;
import java.util.Locale;

/** The caution that belongs to the act at hand, in one line; local rules and licensed practice come first. */
public final class Cautions {
    private Cautions() {}

    /** Empty where nothing can hurt anybody. */
    public static String of(Stage stage) {
        return switch (stage) {
            case READY -> "Lock both axes before you lift the telescope on. Mains leads outdoors want residual-current protection; "
                    + "installing it is for a licensed electrician.";
            case POLAR -> "Laser pointers: many places forbid pointing them up, and aircraft come first. Local rules decide.";
            case POINT -> String.format(
                    Locale.ROOT,
                    "Never toward the Sun. A slew within %.0f° of it is refused; by hand, nothing refuses it.",
                    GuardedMount.SUN_DEG);
            case RUN -> "Warm clothes, a light to hand, not far alone. No lamp and no step near a camera that exposes. Rest before the"
                    + " drive home.";
            case CALIBRATE -> "Let the sensor warm up slowly before its power is cut.";
            case PLAN, FOCUS, GUIDE, STACK, LOGBOOK -> "";
        };
    }
}
