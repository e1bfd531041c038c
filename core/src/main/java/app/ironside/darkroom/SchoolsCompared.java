package app.ironside.darkroom;

import app.ironside.image.Frame;
import java.util.Locale;

/**
 * The same lights stacked by the verdicts, and all of them by weight.
 *
 * @param judged what the verdicts keep
 * @param all every light of the field
 * @param judgedPicture the stack, or its first colour
 * @param judgedFwhmPx star size measured in it; NaN without stars
 * @param deeperMag by how much keeping all is deeper for faint extended light, magnitudes: by the light of stars in both and the noise of
 *     blocks of pixels; what each gains over its own subs tells nothing of that. NaN where they have no stars in common
 */
public record SchoolsCompared(
        Development.StackFile judged,
        Development.StackFile all,
        Frame judgedPicture,
        Frame allPicture,
        double judgedFwhmPx,
        double allFwhmPx,
        double deeperMag) {

    /** What each gives, and the difference. */
    public String sentence() {
        return one("By the verdicts", judged, judgedFwhmPx) + " " + one("All", all, allFwhmPx) + " " + difference();
    }

    private static String one(String name, Development.StackFile s, double fwhmPx) {
        return text(
                "%s: %d of %d lights, %.0f min, stars of %.2f px.",
                name, s.kept(), s.frames(), s.exposureS() / 60, fwhmPx);
    }

    private String difference() {
        if (judged.kept() == all.kept()) {
            return "Both keep the same.";
        }
        if (Double.isNaN(deeperMag)) {
            return "They have too few stars in common to tell which is deeper.";
        }
        double larger = 100 * (allFwhmPx / judgedFwhmPx - 1);
        return text(
                "Keeping all is %.2f mag %s, with stars %.0f %% %s.",
                Math.abs(deeperMag),
                deeperMag >= 0 ? "deeper" : "less deep",
                Math.abs(larger),
                larger >= 0 ? "larger" : "smaller");
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
