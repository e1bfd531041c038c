package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.TargetWindow;
import app.ironside.plan.WeatherForecast;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import javax.imageio.ImageIO;
import javax.xml.parsers.DocumentBuilderFactory;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;

class NightPackTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();

    private static NightPack pack() {
        NightFile file = Examples.night(OBJECTS);
        NightPlan plan = NightPlanner.plan(file.site(), file.kit(), file.program());
        WeatherForecast none = span -> List.of();
        NightBudget budget =
                NightBudget.of(new NightBudget.Given(file.site(), file.kit(), plan, file.program(), none, 500));
        return new NightPack(
                file,
                plan,
                budget,
                ReadyList.of(file.site(), file.kit(), file.program(), List.of("red lamp & spare fuse")));
    }

    /** Another reader: the XML parser of the JDK. */
    @Test
    void theSheetIsWellFormed() throws Exception {
        String html = pack().html();
        var document = DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(new ByteArrayInputStream(
                        html.replaceFirst("<!DOCTYPE html>", "").getBytes(StandardCharsets.UTF_8)));
        assertThat(document.getElementsByTagName("table").getLength()).isEqualTo(5);
        assertThat(html)
                .contains("M 33", "NGC 2403", "red lamp &amp; spare fuse", "flip", "needs hands", "remote shutter");
    }

    /** Read back as a picture: the dark is grey, and the curve of M 33 stands as high as its sample says. */
    @Test
    void theChartShowsTheNight() throws Exception {
        NightPack pack = pack();
        String html = pack.html();
        String data = html.substring(html.indexOf("base64,") + 7);
        BufferedImage chart = ImageIO.read(
                new ByteArrayInputStream(Base64.getDecoder().decode(data.substring(0, data.indexOf('"')))));
        NightTimes times = pack.plan().times();
        Interval night = new Interval(
                times.sunset().orElseThrow().minusSeconds(1800),
                times.sunrise().orElseThrow().plusSeconds(1800));
        TargetWindow.Sample sample = pack.plan().blocks().get(0).window().samples().stream()
                .filter(s -> pack.plan().blocks().get(0).span().contains(s.time()))
                .skip(12)
                .findFirst()
                .orElseThrow();
        double along = (double) Duration.between(night.from(), sample.time()).toSeconds()
                / night.duration().toSeconds();
        int x = (int) Math.round(64 + along * (chart.getWidth() - 72));
        int inkFrom = 37;
        while (inkFrom < chart.getHeight() && (chart.getRGB(x, inkFrom) & 0xFF) > 0x60) {
            inkFrom++;
        }
        double altitude = (chart.getHeight() - 48 - inkFrom - 3) / (chart.getHeight() - 84.0) * 90;
        assertThat(altitude).isCloseTo(sample.altitudeDeg(), within(2.0));
        assertThat(chart.getRGB(x, chart.getHeight() - 60) & 0xFF).isEqualTo(0xE4);
        assertThat(chart.getRGB(70, chart.getHeight() - 60) & 0xFF).isEqualTo(0xFF);
    }

    /** Another reader: PDFBox gives back the text that was printed. */
    @Test
    void theSheetAsPdf() throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        pack().pdf(out);
        try (PDDocument pdf = Loader.loadPDF(out.toByteArray())) {
            assertThat(pdf.getNumberOfPages()).isBetween(1, 3);
            assertThat(new PDFTextStripper().getText(pdf)).contains("Colle Sorbo", "NGC 2403", "tripod");
        }
    }

    /** Published: RFC 5545, 3.1 (lines of at most 75 octets, CRLF), 3.6.6 (alarms), 3.8.2.2 (times in UTC end in Z). */
    @Test
    void theCalendarKeepsToItsStandard() {
        String calendar = pack().calendar();
        assertThat(calendar).startsWith("BEGIN:VCALENDAR\r\n").endsWith("END:VCALENDAR\r\n");
        assertThat(Arrays.stream(calendar.split("\r\n")))
                .allSatisfy(line ->
                        assertThat(line.getBytes(StandardCharsets.UTF_8).length).isLessThanOrEqualTo(75));
        assertThat(calendar).contains("BEGIN:VALARM", "TRIGGER:-PT10M", "ACTION:DISPLAY");
        assertThat(calendar).containsPattern("SUMMARY:M 33\\\\, \\d+ subs");
        assertThat(calendar).containsPattern("DTSTART:202611\\d\\dT\\d{6}Z");
        assertThat(calendar.split("BEGIN:VEVENT", -1))
                .hasSize(1 + 2 + pack().budget().visits().size());
    }

    @Test
    void tableAndProgram() {
        List<String> lines = pack().altitudesCsv().lines().toList();
        assertThat(lines.get(0)).isEqualTo("time,target,altitude_deg,azimuth_deg,airmass");
        assertThat(lines).hasSize(1 + 2 * 145);
        NightFile again = NightFile.parse(pack().program(), "again", OBJECTS);
        assertThat(again.program()).isEqualTo(pack().file().program());
    }

    /** Law: a night put together by the application reads back as the same night. */
    @Test
    void aNightThatWasPutTogetherReadsBack() {
        NightFile file = Examples.night(OBJECTS);
        NightFile made =
                NightFile.of(file.site(), file.kit(), file.program(), List.of("look at the plug"), file.observatory());
        NightFile again = NightFile.parse(made.text(), "made", OBJECTS);
        assertThat(again.program()).isEqualTo(file.program());
        assertThat(again.kit()).isEqualTo(file.kit());
        assertThat(again.lessons()).containsExactly("look at the plug");
        assertThat(again.observatory()).isEqualTo(file.observatory());
    }
}
