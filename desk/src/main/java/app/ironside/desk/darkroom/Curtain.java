package app.ironside.desk.darkroom;

import app.ironside.Progress;
import app.ironside.darkroom.Darkroom;
import app.ironside.darkroom.StacksCompared;
import app.ironside.desk.picture.PictureLevels;
import app.ironside.desk.picture.Shown;
import app.ironside.image.Frame;
import app.ironside.image.Stretch;
import app.ironside.library.FrameSet;
import app.ironside.library.Library;
import app.ironside.library.Match;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/**
 * Two pictures held against each other.
 *
 * @param detail what was measured of them
 * @param verdict in a line
 */
record Curtain(PictureLevels left, PictureLevels right, String detail, String verdict) {
    /** A light as it came and calibrated. */
    static Curtain proof(Darkroom darkroom, Match match, Path to, Progress progress) {
        Darkroom.Proven proven = darkroom.prove(match, to, progress);
        String caption = "raw | calibrated   " + proven.light().getFileName();
        return new Curtain(
                PictureLevels.of(new Shown(proven.light() + " raw", caption, proven.raw(), List.of())),
                PictureLevels.of(new Shown(proven.light() + " calibrated", caption, proven.calibrated(), List.of())),
                String.join("\n", proven.proof().sentences()),
                proven.proof().isSound()
                        ? "Nothing speaks against these masters."
                        : "These masters do not fit these lights: see the reasons.");
    }

    /** The same lights stacked by their verdicts, and all of them, at one stretch. */
    static Curtain schools(Darkroom darkroom, Library library, FrameSet of, Path to, Progress progress) {
        Path folder = to.resolve("compared");
        return of(darkroom.compare(library, of, folder, progress), folder);
    }

    /** The lights of all nights stacked without one of them, and with it, at one stretch. */
    static Curtain night(Darkroom darkroom, Library library, FrameSet of, Path to, Progress progress) {
        Path folder = to.resolve("weighed");
        return of(darkroom.weigh(library, of, folder, progress), folder);
    }

    private static Curtain of(StacksCompared both, Path folder) {
        Stretch how = Stretch.automatic(both.lessPicture());
        String caption = both.words().less().toLowerCase(Locale.ROOT) + " | "
                + both.words().more().toLowerCase(Locale.ROOT) + "   "
                + both.less().target();
        return new Curtain(
                PictureLevels.of(new Shown(both.less().file() + " less", caption, both.lessPicture(), List.of()), how),
                PictureLevels.of(new Shown(both.more().file() + " more", caption, both.morePicture(), List.of()), how),
                both.sentence(),
                "Both stacks are in " + folder + ".");
    }

    /** Whether a curtain can be drawn over them. */
    boolean isOfOneSize() {
        Frame one = left.shown().frame();
        Frame other = right.shown().frame();
        return one.width() == other.width() && one.height() == other.height();
    }
}
