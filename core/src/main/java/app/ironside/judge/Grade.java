package app.ironside.judge;

import java.util.function.Supplier;

/**
 * A verdict on one sub.
 *
 * @param transparency the stars' light over the best of the series, without the air's part where the altitude is known; 0 if unknown
 * @param weight what it adds to the stack's squared signal-to-noise for faint extended light, 1 for the best of its series
 * @param cause what lowers it most
 * @param words one sentence with the numbers, put together when it is asked for: of a long series hardly any is read
 */
public record Grade(
        SubLook sub, double transparency, double weight, boolean keep, Cause cause, Supplier<String> words) {

    /** One sentence with the numbers. */
    public String reason() {
        return words.get();
    }
}
