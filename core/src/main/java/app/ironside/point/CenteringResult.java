package app.ironside.point;

import app.ironside.solve.PlateSolution;
import java.util.List;

/**
 * How a centring went.
 *
 * @param offsetsArcsec distance of the target from the middle after each round
 * @param last the last solution
 * @param centred whether the last offset is within the limit
 */
public record CenteringResult(List<Double> offsetsArcsec, PlateSolution last, boolean centred) {
    public CenteringResult {
        offsetsArcsec = List.copyOf(offsetsArcsec);
    }

    public double offsetArcsec() {
        return offsetsArcsec.get(offsetsArcsec.size() - 1);
    }
}
