package app.ironside.journal;

import app.ironside.device.Mount;
import java.time.Instant;

/**
 * Centring has come to its end, within the limit or not.
 *
 * @param rounds frames that were solved for it
 * @param rotationDeg of the camera
 */
public record TargetCentred(
        Instant time,
        String text,
        String target,
        double offsetArcsec,
        int rounds,
        double rotationDeg,
        Mount.PierSide pierSide)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.POINT;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
