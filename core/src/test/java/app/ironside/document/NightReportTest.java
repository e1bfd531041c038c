package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Examples;
import app.ironside.journal.AnySub;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.Verdict;
import app.ironside.plan.NightPlanner;
import app.ironside.sky.DeepSkyCatalogue;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import javax.xml.parsers.DocumentBuilderFactory;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;

/** Reports read back by other readers: the XML parser of the JDK, and a PDF library. */
class NightReportTest {
    private static NightReport report(NightState night) {
        NightFile file = Examples.night(DeepSkyCatalogue.load());
        return new NightReport(
                file, NightPlanner.plan(file.site(), file.kit(), file.program()), night, Optional.empty());
    }

    private static SubTaken sub(Instant time, String filter, boolean keep) {
        Verdict verdict = keep ? new Verdict(true, "good", "good") : new Verdict(false, "dew", "dew");
        return AnySub.of(time, "M 33", filter, 180, verdict, OptionalDouble.of(1.4), OptionalDouble.of(0.3));
    }

    private static NightState night() {
        Instant at = Instant.parse("2026-11-14T20:30:00Z");
        return NightState.of(List.of(
                sub(at, "L", true),
                sub(at.plusSeconds(200), "L", false),
                sub(at.plusSeconds(400), "R", true),
                new TroubleSeen(
                        at.plusSeconds(600),
                        "Dew.",
                        Trouble.DEW,
                        at.plusSeconds(200),
                        0.9,
                        "Stars swell & fade together.",
                        List.of(),
                        true,
                        List.of())));
    }

    @Test
    void whatWasKeptAndWhatWentWrongIsTold() throws Exception {
        String html = report(night()).html();
        var document = DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(new ByteArrayInputStream(
                        html.replaceFirst("<!DOCTYPE html>", "").getBytes(StandardCharsets.UTF_8)));
        assertThat(document.getElementsByTagName("img").getLength())
                .as("altitudes and subs")
                .isEqualTo(2);
        // By hand: two of three subs, 360 s.
        assertThat(html)
                .contains("2 of 3 subs kept, 0.1 hours of light")
                .contains("<td class=\"short\">1 of 2</td>")
                .contains("Stars swell &amp; fade together.")
                .contains("After dew on the optics: " + Trouble.DEW.remedy());
    }

    @Test
    void itIsReadAsPdf() throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        report(night()).pdf(out);
        try (var document = Loader.loadPDF(out.toByteArray())) {
            assertThat(new PDFTextStripper().getText(document))
                    .contains("Colle Sorbo", "What went wrong", "21:33", "Next time");
        }
    }

    @Test
    void aNightWithoutSubsIsTold() {
        assertThat(report(NightState.EMPTY).html()).contains("No sub was taken.", "Nothing that was seen.");
    }
}
