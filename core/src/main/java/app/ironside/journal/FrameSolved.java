package app.ironside.journal;

import app.ironside.sky.Equatorial;
import app.ironside.solve.Wcs;
import java.time.Instant;
import java.util.List;

/**
 * A frame was recognised on the way to a target.
 *
 * @param offsetArcsec of its middle from the target
 * @param byHand what a person would have to do to centre it
 * @param wrongHints what was believed of it and is not so
 * @param log10FalseOdds of the matches being chance
 */
public record FrameSolved(
        Instant time,
        String text,
        String target,
        String file,
        Equatorial centre,
        double rotationDeg,
        double scaleArcsecPerPixel,
        int matchedStars,
        double rmsArcsec,
        double offsetArcsec,
        String byHand,
        List<String> wrongHints,
        double log10FalseOdds,
        Wcs wcs)
        implements NightEvent {
    public FrameSolved {
        wrongHints = List.copyOf(wrongHints);
    }

    @Override
    public Stage station() {
        return Stage.POINT;
    }
}
