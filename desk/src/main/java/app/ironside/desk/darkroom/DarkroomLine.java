package app.ironside.desk.darkroom;

import app.ironside.darkroom.Development;
import app.ironside.desk.parts.Words;
import app.ironside.judge.Grade;
import app.ironside.library.FrameKind;
import app.ironside.library.FrameSet;
import app.ironside.library.Gap;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.stack.Footprint;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;

/**
 * A line of a list in the darkroom.
 *
 * @param head what it is, in large
 * @param detail the reasons and numbers
 * @param trouble whether something is to be done about it
 * @param picture the file that is shown with it
 * @param set of lights, for a line of one
 * @param files whose facts a person may correct
 */
record DarkroomLine(
        String head, String detail, boolean trouble, Optional<Path> picture, Optional<FrameSet> set, List<Path> files) {
    DarkroomLine(String head, String detail, boolean trouble, Optional<Path> picture, Optional<FrameSet> set) {
        this(head, detail, trouble, picture, set, set.map(FrameSet::files).orElse(List.of()));
    }

    /** What lies in the folders, in a sentence. */
    static String title(Library library) {
        int lights = library.matches().stream()
                .mapToInt(m -> m.lights().files().size())
                .sum();
        TreeSet<String> targets = new TreeSet<>();
        TreeSet<String> nights = new TreeSet<>();
        for (Match m : library.matches()) {
            m.lights().target().ifPresent(targets::add);
            m.lights().night().ifPresent(n -> nights.add(n.toString()));
        }
        if (lights == 0) {
            return library.frames().isEmpty()
                    ? "No frames here."
                    : "No lights among " + library.frames().size() + " frames.";
        }
        String of = targets.isEmpty()
                ? ""
                : " of " + (targets.size() <= 2 ? String.join(" and ", targets) : targets.size() + " targets");
        return lights + " lights" + of + (nights.size() > 1 ? " over " + nights.size() + " nights." : ".");
    }

    /** Each set of lights with what fits it, what is missing, the other sets, and what cannot be read. */
    static List<DarkroomLine> there(Library library) {
        List<DarkroomLine> lines = new ArrayList<>();
        for (Match m : library.matches()) {
            boolean all =
                    m.flat().isPresent() && (m.dark().isPresent() || m.bias().isPresent());
            lines.add(new DarkroomLine(
                    lights(m.lights()),
                    String.join("\n", m.why()),
                    !all,
                    Optional.of(m.lights().files().get(0)),
                    Optional.of(m.lights())));
        }
        for (Gap gap : library.gaps()) {
            lines.add(new DarkroomLine(
                    "Missing: " + kind(gap.kind())
                            + gap.filter().map(f -> " of " + f).orElse("")
                            + Words.format(", %.0f min of work", Math.ceil(gap.minutes())),
                    gap.reason(),
                    true,
                    Optional.empty(),
                    Optional.empty()));
        }
        for (FrameSet s : library.sets()) {
            if (s.kind() != FrameKind.LIGHT) {
                lines.add(new DarkroomLine(
                        s.files().size() + " " + kind(s.kind()) + details(s),
                        s.night().map(n -> "night of " + n).orElse(""),
                        false,
                        Optional.of(s.files().get(0)),
                        Optional.empty(),
                        s.files()));
            }
        }
        for (Library.Unusable u : library.unusable()) {
            lines.add(new DarkroomLine(
                    "Not usable: " + u.file().getFileName(), u.reason(), true, Optional.empty(), Optional.empty()));
        }
        return lines;
    }

    private static String lights(FrameSet s) {
        return s.target().orElse("No name") + s.filter().map(f -> " · " + f).orElse("") + " · "
                + s.files().size() + " × "
                + (s.exposureS().isPresent() ? number(s.exposureS().getAsDouble()) + " s" : "untold")
                + s.night().map(n -> " · " + n).orElse("");
    }

    private static String kind(FrameKind kind) {
        return switch (kind) {
            case DARK -> "darks";
            case BIAS -> "bias frames";
            case FLAT -> "flats";
            case FLAT_DARK -> "flat darks";
            case MASTER_DARK -> "master dark";
            case MASTER_BIAS -> "master bias";
            case MASTER_FLAT -> "master flat";
            case LIGHT -> "lights";
            case UNKNOWN -> "frames of no told kind";
        };
    }

    private static String details(FrameSet s) {
        String details = s.filter().map(f -> " of " + f).orElse("");
        if (s.exposureS().isPresent() && s.kind() != FrameKind.BIAS) {
            details += ", " + number(s.exposureS().getAsDouble()) + " s";
        }
        if (s.gain().isPresent()) {
            details += ", gain " + number(s.gain().getAsDouble());
        }
        if (s.temperatureC().isPresent()) {
            details += Words.format(", %.0f °C", s.temperatureC().getAsDouble());
        }
        return details;
    }

    /** As long as it needs to be. */
    private static String number(double value) {
        return Words.format(Math.abs(value) < 1 ? "%.4f" : "%.1f", value).replaceFirst("[.,]?0+$", "");
    }

    /** Lights with their verdicts. */
    static List<DarkroomLine> judged(List<JudgedLight> lights) {
        List<DarkroomLine> lines = new ArrayList<>();
        for (JudgedLight light : lights) {
            Grade g = light.grade();
            lines.add(new DarkroomLine(
                    (light.keep() ? "✓ " : "✕ ")
                            + light.file().getFileName()
                            + Words.format(
                                    "   %3.0f %%   %.2f px",
                                    100 * g.weight(), g.sub().fwhmPx())
                            + (light.cause().isEmpty() ? "" : "   " + light.cause())
                            + (light.byHand() ? ", by hand" : ""),
                    g.reason(),
                    !light.keep(),
                    Optional.of(light.file()),
                    Optional.empty()));
        }
        return lines;
    }

    /** What was developed. */
    static List<DarkroomLine> results(Development made) {
        List<DarkroomLine> lines = new ArrayList<>();
        for (Development.StackFile s : made.stacks()) {
            StringBuilder detail = new StringBuilder(Words.format(
                    "%d of %d lights, %.0f min. %.2f times better than one sub; %.2f was possible.",
                    s.kept(), s.frames(), s.exposureS() / 60, s.snrGainOverOneSub(), s.snrGainPossible()));
            Footprint.bends(s.footprints())
                    .ifPresent(words -> detail.append("\n").append(words));
            s.drizzled().ifPresent(words -> detail.append("\n").append(words));
            s.rejected().forEach(r -> detail.append("\n")
                    .append(r.file().getFileName())
                    .append(" left out: ")
                    .append(r.reason()));
            s.cropped()
                    .ifPresent(c -> detail.append(Words.format(
                            "\nCut to %d × %d pixels, which nearly all lights reach, as all filters of this target: %s",
                            c.part().width(), c.part().height(), c.file())));
            lines.add(new DarkroomLine(
                    s.target()
                            + (s.filter().isEmpty() ? "" : " · " + s.filter())
                            + Words.format(" · %.2f ×", s.snrGainOverOneSub())
                            + (s.made() ? "" : " (as before)"),
                    detail.toString(),
                    false,
                    Optional.of(s.best()),
                    Optional.empty()));
        }
        for (Development.PictureFile p : made.pictures()) {
            if (p.file().toString().endsWith(".png")) {
                lines.add(new DarkroomLine(
                        p.target() + " · colour of " + p.channels(),
                        p.file() + "\nThe same with 16 bits as TIFF beside it.",
                        false,
                        Optional.of(p.file()),
                        Optional.empty()));
            }
        }
        for (Development.MasterFile m : made.masters()) {
            lines.add(new DarkroomLine(
                    "Master: " + kind(m.of().kind()) + details(m.of()),
                    String.join("\n", m.verdict()) + "\n" + m.of().files().size() + " frames: " + m.file(),
                    !m.sound(),
                    Optional.of(m.file()),
                    Optional.empty()));
        }
        for (String failed : made.failed()) {
            lines.add(new DarkroomLine("Not made", failed, true, Optional.empty(), Optional.empty()));
        }
        return lines;
    }
}
