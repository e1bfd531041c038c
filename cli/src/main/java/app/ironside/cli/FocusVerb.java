package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.TextFiles;
import app.ironside.focus.FocusCurve;
import app.ironside.focus.FocusMethod;
import app.ironside.focus.FocusSample;
import app.ironside.focus.FocusVerdict;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "focus", description = "Best focus from a sweep of star sizes. Positions in steps, sizes in pixels.")
final class FocusVerb extends Verb {
    private static final double DEFAULT_SIGMA_SHARE = 0.03;

    @Parameters(paramLabel = "CURVE.csv", description = "Columns position,size[,sigma] under one line of titles.")
    private Path file;

    @Option(
            names = "--method",
            paramLabel = "NAME",
            defaultValue = "hyperbola",
            description = "hyperbola, parabola, lowest-three or trend-lines (default hyperbola).")
    private String methodName;

    @Override
    Answer answer() {
        FocusMethod method = Arrays.stream(FocusMethod.values())
                .filter(m -> m.word().equals(methodName))
                .findFirst()
                .orElseThrow(() -> badOption(
                        "--method",
                        "is \"" + methodName + "\"",
                        String.join(
                                ", ",
                                Arrays.stream(FocusMethod.values())
                                        .map(FocusMethod::word)
                                        .toList())));
        FocusCurve.Judged judged = FocusCurve.judged(samples(), method);
        FocusVerdict verdict = judged.verdict();
        Map<String, Object> facts = Answer.facts(
                "bestPosition", rounded(verdict.bestPosition(), 3),
                "bestSize", rounded(verdict.bestSize(), 4),
                "rSquared", rounded(verdict.rSquared(), 5),
                "positionSigma", rounded(verdict.positionSigma(), 3),
                "method", verdict.method().word(),
                "accepted", verdict.accepted(),
                "reason", verdict.reason(),
                "leftOut", judged.leftOut().stream().map(FocusSample::position).toList());
        return new Answer(facts, verdict.accepted());
    }

    private List<FocusSample> samples() {
        List<String> lines = TextFiles.lines(file, "a CSV file position,size[,sigma]");
        List<FocusSample> samples = new ArrayList<>();
        for (int i = 0; i < lines.size(); i++) {
            String line = lines.get(i).replaceFirst("#.*", "").strip();
            boolean titles = line.toLowerCase(Locale.ROOT).startsWith("position");
            if (!line.isEmpty() && !titles) {
                samples.add(sample(line, file + " line " + (i + 1)));
            }
        }
        if (samples.size() < 3) {
            throw new BadInputException(file.toString(), "has " + samples.size() + " points", "at least 3");
        }
        return samples;
    }

    private static FocusSample sample(String line, String where) {
        String[] fields = line.split("[,;]", -1);
        try {
            double position = Double.parseDouble(fields[0].strip());
            double size = Double.parseDouble(fields[1].strip());
            double sigma = fields.length > 2 && !fields[2].isBlank()
                    ? Double.parseDouble(fields[2].strip())
                    : DEFAULT_SIGMA_SHARE * size;
            if (Double.isNaN(position) || Double.isInfinite(position)) {
                throw new IllegalArgumentException("position is " + position);
            }
            return new FocusSample(position, size, sigma);
        } catch (IllegalArgumentException | ArrayIndexOutOfBoundsException e) {
            throw new BadInputException(
                    where, "\"" + line + "\" is no point", "position,size[,sigma], sizes above 0", e);
        }
    }
}
