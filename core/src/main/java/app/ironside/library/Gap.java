package app.ironside.library;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Calibration frames that are missing, with the work to take them.
 *
 * @param minutes of work
 * @param forSet the lights that want them
 */
public record Gap(
        FrameKind kind,
        Optional<String> filter,
        OptionalDouble exposureS,
        OptionalDouble gain,
        OptionalDouble temperatureC,
        String forSet,
        double minutes,
        String reason) {
    /** With 20 darks a stack of as many lights is noisier by 2 % of a dark's share (common practice: 15 to 50). */
    private static final int WANTED = 20;

    private static final double READ_OUT_S = 2;

    /** To set up a panel or wait for a sky that is bright enough. */
    private static final double FLAT_SET_UP_MIN = 3;

    private static final double FLAT_S = 2;

    static List<Gap> of(List<FrameSet> sets, List<Match> matches) {
        List<Gap> gaps = new ArrayList<>();
        for (Match match : matches) {
            FrameSet lights = match.lights();
            if (match.dark().isEmpty()) {
                double each = lights.exposureS().orElse(0) + READ_OUT_S;
                gaps.add(new Gap(
                        FrameKind.DARK,
                        Optional.empty(),
                        lights.exposureS(),
                        lights.gain(),
                        lights.temperatureC(),
                        lights.id(),
                        WANTED * each / 60,
                        reason(match, "dark")
                                + (lights.temperatureC().isPresent()
                                        ? " A cooled camera takes them on any night at "
                                                + Numbers.celsius(
                                                        lights.temperatureC().getAsDouble())
                                                + "; an uncooled one only in air as warm as that."
                                        : " Take them at the lights' temperature.")));
            }
            if (match.flat().isEmpty()) {
                gaps.add(
                        new Gap(
                                FrameKind.FLAT,
                                lights.filter(),
                                OptionalDouble.empty(),
                                lights.gain(),
                                lights.temperatureC(),
                                lights.id(),
                                FLAT_SET_UP_MIN + WANTED * (FLAT_S + READ_OUT_S) / 60,
                                reason(match, "flat")
                                        + " They can be taken while camera and telescope have not been turned or taken apart."));
            }
            boolean rawFlat = match.flat().map(f -> f.kind() == FrameKind.FLAT).orElse(false);
            boolean needsBias =
                    match.dark().isEmpty() || rawFlat && match.flatDark().isEmpty();
            if (match.bias().isEmpty() && needsBias) {
                gaps.add(new Gap(
                        FrameKind.BIAS,
                        Optional.empty(),
                        OptionalDouble.of(0),
                        lights.gain(),
                        lights.temperatureC(),
                        lights.id(),
                        WANTED * READ_OUT_S / 60,
                        reason(match, "bias")
                                + (rawFlat
                                        ? " Flats need it, or darks of their own length."
                                        : " Without darks it is the next best.")));
            }
        }
        return gaps;
    }

    private static String reason(Match match, String what) {
        return match.why().stream()
                .filter(w -> w.startsWith("No " + what))
                .findFirst()
                .orElse("No " + what + ".");
    }
}
