package app.ironside.darkroom;

import app.ironside.library.FrameSet;
import app.ironside.library.Gap;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.stack.Crop;
import app.ironside.stack.Footprint;
import app.ironside.stack.StackResult;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

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
     * @param sound whether nothing that it shows of itself speaks against it
     * @param verdict what it shows, in sentences
     */
    public record MasterFile(Path file, FrameSet of, boolean made, boolean sound, List<String> verdict) {
        public MasterFile {
            verdict = List.copyOf(verdict);
        }
    }

    /**
     * A stack.
     *
     * @param nights over which its lights were taken
     * @param frames lights that were there
     * @param exposureS sum over the kept
     * @param footprints where each of the kept lies
     * @param drizzled what drops onto a finer grid gained and cost, in words; empty for interpolation
     * @param cropped the part that nearly all of them reach, if it was asked for
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
            boolean made,
            List<Footprint> footprints,
            Optional<String> drizzled,
            Optional<Cropped> cropped) {
        /** The stack of which pictures are made. */
        public Path best() {
            return cropped.map(Cropped::file).orElse(file);
        }

        StackFile withCropped(Cropped part) {
            return new StackFile(
                    file,
                    target,
                    filter,
                    nights,
                    frames,
                    kept,
                    exposureS,
                    noiseAdu,
                    snrGainOverOneSub,
                    snrGainPossible,
                    referenceFile,
                    rejected,
                    made,
                    footprints,
                    drizzled,
                    Optional.of(part));
        }
    }

    /** A stack cut to what nearly all its lights reach, as all others of its target. */
    public record Cropped(Path file, Crop part) {}

    /** A picture with the filters it shows. */
    public record PictureFile(Path file, String target, String channels) {}
}
