package app.ironside.darkroom;

import app.ironside.image.Frame;
import java.util.Locale;

/**
 * Two stacks of one field and filter, of fewer and of more lights.
 *
 * @param words what each is, and what the difference is said of
 * @param lessPicture the stack, or its first colour
 * @param lessFwhmPx star size measured in it; NaN without stars
 * @param deeperMag by how much the second is deeper for faint extended light, magnitudes: by the light of stars in both and the noise of
 *     blocks of pixels; what each gains over its own subs tells nothing of that. NaN where they have no stars in common
 */
public record StacksCompared(
        Words words,
        Development.StackFile less,
        Development.StackFile more,
        Frame lessPicture,
        Frame morePicture,
        double lessFwhmPx,
        double moreFwhmPx,
        double deeperMag) {

    /**
     * How they are called.
     *
     * @param difference begins the sentence about the second against the first: "Keeping all"
     */
    public record Words(String less, String more, String difference) {}

    /** What each gives, and the difference. */
    public String sentence() {
        return one(words.less(), less, lessFwhmPx) + " " + one(words.more(), more, moreFwhmPx) + " " + difference();
    }

    private static String one(String name, Development.StackFile s, double fwhmPx) {
        return text(
                "%s: %d of %d lights, %.0f min, stars of %.2f px.",
                name, s.kept(), s.frames(), s.exposureS() / 60, fwhmPx);
    }

    private String difference() {
        if (less.kept() == more.kept()) {
            return "Both keep the same.";
        }
        if (Double.isNaN(deeperMag)) {
            return "They have too few stars in common to tell which is deeper.";
        }
        double larger = 100 * (moreFwhmPx / lessFwhmPx - 1);
        return text(
                "%s is %.2f mag %s, with stars %.0f %% %s.",
                words.difference(),
                Math.abs(deeperMag),
                deeperMag >= 0 ? "deeper" : "less deep",
                Math.abs(larger),
                larger >= 0 ? "larger" : "smaller");
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
