package app.ironside.focus;

import app.ironside.Check;

/**
 * One point of a sweep.
 *
 * @param position in steps
 * @param size star size, half-flux radius or width, px
 * @param sigma its standard error, px
 */
public record FocusSample(double position, double size, double sigma) {
    public FocusSample {
        Check.positive("size", size);
        Check.positive("sigma", sigma);
    }
}
