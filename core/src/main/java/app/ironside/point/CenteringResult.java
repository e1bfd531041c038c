package app.ironside.point;

import app.ironside.solve.PlateSolution;
import java.util.List;
import java.util.Optional;

/**
 * How a centring went.
 *
 * @param offsetsArcsec distance of the target from the middle after each round
 * @param last the last solution
 * @param centred whether the last offset is within the limit
 * @param staleModel why the pointing model that sent the mount is not believed any more, in a sentence; empty if it held, or there is
 *     none
 */
public record CenteringResult(
        List<Double> offsetsArcsec, PlateSolution last, boolean centred, Optional<String> staleModel) {
    public CenteringResult {
        offsetsArcsec = List.copyOf(offsetsArcsec);
    }

    public double offsetArcsec() {
        return offsetsArcsec.get(offsetsArcsec.size() - 1);
    }
}
