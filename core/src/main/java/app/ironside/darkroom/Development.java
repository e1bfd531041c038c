package app.ironside.darkroom;

import app.ironside.library.FrameSet;
import app.ironside.library.Gap;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.stack.StackResult;
import java.nio.file.Path;
import java.util.List;

/**
 * What came of some folders.
 *
 * @param matches which masters went with which lights, and why
 * @param failed what could not be made, in words
 */
public record Development(
        List<MasterFile> masters,
        List<StackFile> stacks,
        List<PictureFile> pictures,
        List<Match> matches,
        List<Gap> gaps,
        List<Library.Unusable> unusable,
        List<String> failed) {
    public Development {
        masters = List.copyOf(masters);
        stacks = List.copyOf(stacks);
        pictures = List.copyOf(pictures);
        matches = List.copyOf(matches);
        gaps = List.copyOf(gaps);
        unusable = List.copyOf(unusable);
        failed = List.copyOf(failed);
    }

    /**
     * A master.
     *
     * @param made now, or found as it was
     */
    public record MasterFile(Path file, FrameSet of, boolean made) {}

    /**
     * A stack.
     *
     * @param nights over which its lights were taken
     * @param frames lights that were there
     * @param exposureS sum over the kept
     */
    public record StackFile(
            Path file,
            String target,
            String filter,
            int nights,
            int frames,
            int kept,
            double exposureS,
            double noiseAdu,
            double snrGainOverOneSub,
            double snrGainPossible,
            Path referenceFile,
            List<StackResult.Rejected> rejected,
            boolean made) {}

    /** A picture with the filters it shows. */
    public record PictureFile(Path file, String target, String channels) {}
}
