package app.ironside.watch;

import app.ironside.journal.Trouble;
import java.time.Instant;

/**
 * Something that is wrong.
 *
 * @param since when it began: the middle of the first sub that shows it
 * @param certainty 0 to 1
 * @param sentence what was seen, with numbers
 * @param framesLost subs that were not kept for it
 * @param losing whether the last sub was lost to it
 */
public record Finding(
        Instant since, Trouble trouble, double certainty, String sentence, int framesLost, boolean losing) {
    Finding with(Trouble other, double otherCertainty) {
        return new Finding(since, other, otherCertainty, sentence, framesLost, losing);
    }
}
