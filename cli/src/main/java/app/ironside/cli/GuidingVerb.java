package app.ironside.cli;

import app.ironside.guide.GuideAnalysis;
import app.ironside.guide.GuideComparison;
import app.ironside.guide.GuideLog;
import java.nio.file.Path;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "guiding",
        description =
                "What a record of guiding tells: how far the star strayed and what of it was whose. Arcseconds on the sky, seconds,"
                        + " milliseconds of pulses.")
final class GuidingVerb extends Verb {
    @Parameters(
            paramLabel = "LOG.csv",
            description =
                    "Columns time_s,ra_arcsec,dec_arcsec[,ra_pulse_ms,dec_pulse_ms,snr] under one line of titles. Lines that begin with #"
                            + " may carry declination_deg, exposure_s, guided as key: value.")
    private Path file;

    @Option(names = "--against", paramLabel = "OTHER.csv", description = "Another record to compare with.")
    private Path against;

    @Override
    Answer answer() {
        GuideLog log = GuideLog.read(file);
        GuideAnalysis a = GuideAnalysis.of(log);
        Map<String, Object> facts = Answer.facts(
                "rmsRaArcsec", rounded(a.rmsRaArcsec(), 4),
                "rmsDecArcsec", rounded(a.rmsDecArcsec(), 4),
                "rmsTotalArcsec", rounded(a.rmsTotalArcsec(), 4),
                "p80Arcsec", rounded(a.p80Arcsec(), 4),
                "peakArcsec", rounded(a.peakArcsec(), 4),
                "seeingArcsec", rounded(a.seeingArcsec(), 4),
                "periodicErrors",
                        a.periods().stream()
                                .map(p -> Answer.facts(
                                        "periodS", rounded(p.periodSeconds(), 2),
                                        "amplitudeArcsec", rounded(p.amplitude(), 4)))
                                .toList(),
                "decDriftArcsecPerMin", rounded(a.decDriftArcsecPerMin(), 4),
                "blame",
                        a.blame().stream()
                                .map(b -> Answer.facts(
                                        "cause", b.cause().word(),
                                        "share", rounded(b.share(), 4),
                                        "evidence", b.evidence()))
                                .toList(),
                "excursions",
                        a.excursions().stream()
                                .map(e -> Answer.facts(
                                        "fromS", rounded(e.fromSeconds(), 3),
                                        "untilS", rounded(e.untilSeconds(), 3),
                                        "peakArcsec", rounded(e.peakArcsec(), 3),
                                        "cause", e.cause().word()))
                                .toList(),
                "advice", a.advice());
        if (against != null) {
            GuideComparison c = GuideComparison.of(log, GuideLog.read(against));
            facts.put(
                    "comparison",
                    Answer.facts(
                            "rmsRatio", rounded(c.rmsRatio(), 4),
                            "ci95Low", rounded(c.low95(), 4),
                            "ci95High", rounded(c.high95(), 4),
                            "pValue", rounded(c.pValue(), 5),
                            "verdict", c.verdict().word(),
                            "sentence", c.sentence()));
        }
        return new Answer(facts, true);
    }
}
