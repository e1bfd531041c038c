package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.entry;
import static org.assertj.core.api.Assertions.tuple;

import app.ironside.BadInputException;
import app.ironside.Examples;
import app.ironside.Provenance;
import app.ironside.journal.AnySub;
import app.ironside.journal.Journal;
import app.ironside.journal.NightStarted;
import app.ironside.journal.StackMade;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.logbook.Gathering;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.TargetNight;
import app.ironside.sky.DeepSkyCatalogue;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import javax.imageio.ImageIO;
import javax.xml.parsers.DocumentBuilderFactory;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A project of three nights, its sums by hand: 2 of 3 quarters of an hour of Ha on the first, of which cloud took one; 1 of L on the second; none of
 * 1 on the third. The reports are read back by other readers: the XML parser of the JDK, and a PDF library.
 */
class ProjectReportTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();
    private static final Verdict GOOD = new Verdict(true, "good", "good");
    private static final Verdict CLOUD = new Verdict(false, "cloud took 60 %", "cloud");

    @TempDir
    Path folder;

    private Logbook logbook;

    /** Written as M33 on the second night; another target was taken on the first as well. */
    @BeforeEach
    void threeNights() throws Exception {
        logbook = Logbook.open(folder);
        NightEntry first = night("2026-11-14");
        write(
                first,
                "2026-11-14",
                sub("2026-11-14", 0, "M 33", "Ha", GOOD),
                sub("2026-11-14", 1, "M 33", "Ha", CLOUD),
                sub("2026-11-14", 2, "M 33", "Ha", GOOD),
                sub("2026-11-14", 3, "NGC 891", "L", GOOD));
        Path png = first.folder().resolve("stacks").resolve("m33.png");
        Files.createDirectories(png.getParent());
        logbook.journal(first)
                .append(new StackMade(
                        at("2026-11-14", 5),
                        "A stack.",
                        "M 33 Ha",
                        "M 33",
                        "Ha",
                        "stacks/m33.fits",
                        3,
                        2,
                        0,
                        Duration.ofMinutes(30),
                        10,
                        14,
                        Optional.empty(),
                        OptionalDouble.empty(),
                        1.5,
                        0.001,
                        "b.fits",
                        Optional.empty()));
        ImageIO.write(new BufferedImage(60, 40, BufferedImage.TYPE_BYTE_GRAY), "png", png.toFile());
        write(night("2026-11-16"), "2026-11-16", sub("2026-11-16", 0, "M33", "L", GOOD));
        write(night("2026-11-20"), "2026-11-20", sub("2026-11-20", 0, "M 33", "L", CLOUD));
    }

    private NightEntry night(String date) throws Exception {
        ObjectMapper json = new ObjectMapper();
        ObjectNode text = (ObjectNode) json.readTree(Examples.text("colle-sorbo.json"));
        ObjectNode target = (ObjectNode) text.at("/program/targets/0");
        assertThat(target.get("name").asText()).as("the example's own").isEqualTo("M 33");
        target.remove(List.of("filters", "subsPerFilter", "subSeconds"));
        target.putArray("goals")
                .addObject()
                .put("filter", "Ha")
                .put("subSeconds", 900)
                .put("hoursWanted", 4);
        return logbook.begin(date, "night-" + date, text.toString());
    }

    private static Instant at(String date, int number) {
        return Instant.parse(date + "T21:00:00Z").plusSeconds(1000L * number);
    }

    private static SubTaken sub(String date, int number, String target, String filter, Verdict verdict) {
        return AnySub.of(
                at(date, number), target, filter, 900, verdict, OptionalDouble.of(1.5), OptionalDouble.of(0.3));
    }

    private void write(NightEntry night, String date, SubTaken... subs) throws Exception {
        Journal journal = logbook.journal(night);
        journal.append(new NightStarted(
                at(date, 0).minusSeconds(2000), "t", "Colle Sorbo", "Wren", LocalDate.parse(date), Provenance.WATCHED));
        for (SubTaken sub : subs) {
            journal.append(sub);
        }
    }

    private Project project(String target) {
        Gathering of = Project.all(logbook, OBJECTS).stream()
                .filter(g -> g.target().equals(target))
                .findFirst()
                .orElseThrow();
        return Project.of(of, logbook, OBJECTS, Optional.empty(), LocalDate.parse("2026-12-01"));
    }

    @Test
    void whatEachNightGaveAndLostIsCounted() {
        Project m33 = project("M 33");
        assertThat(m33.of().kept()).containsExactly(entry("Ha", 0.5), entry("L", 0.25));
        assertThat(m33.wanted()).containsExactly(entry("Ha", 4.0));
        assertThat(m33.filters()).containsExactly("Ha", "L");
        assertThat(m33.nights())
                .extracting(n -> n.date().toString(), TargetNight::kept, TargetNight::taken, TargetNight::lost)
                .containsExactly(
                        tuple("2026-11-14", 2, 3, Map.of("cloud", 0.25)),
                        tuple("2026-11-16", 1, 1, Map.of()),
                        tuple("2026-11-20", 0, 1, Map.of("cloud", 0.25)));
    }

    @Test
    void whatIsLeftAndWhatCostLightIsToBeDone() {
        assertThat(new ProjectReport(project("M 33")).toBeDone())
                .containsExactly(
                        "Take 3.5 h more of Ha: 0.5 of 4.0 h are there.",
                        "Look into cloud: it cost 0.5 h, 40 % of all that was taken, most on 2026-11-14.");
        assertThat(new ProjectReport(project("NGC 891")).html()).contains("No end is set for it, and little was lost");
    }

    @Test
    void itIsWrittenAsAPageWithItsPicture() throws Exception {
        Path page = folder.resolve("m33.html");
        new ProjectReport(project("M 33")).write(page);
        String html = Files.readString(page);
        var document = DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(new ByteArrayInputStream(
                        html.replaceFirst("<!DOCTYPE html>", "").getBytes(StandardCharsets.UTF_8)));
        assertThat(document.getElementsByTagName("img").getLength())
                .as("hours by filter and the stack")
                .isEqualTo(2);
        assertThat(html)
                .contains("0.8 h kept over 2 nights, the last of them, 2026-11-16, added 0.3 h")
                .contains("3.5 of 4.0 h are left")
                .contains("2026-11-14: that night's stack; 0.5 h in all by then.");
    }

    @Test
    void itIsReadAsPdf() throws Exception {
        Path pdf = folder.resolve("m33.pdf");
        new ProjectReport(project("M 33")).write(pdf);
        try (var document = Loader.loadPDF(Files.readAllBytes(pdf))) {
            assertThat(new PDFTextStripper().getText(document))
                    .contains("M 33", "Its nights", "2026-11-20", "cloud 0.3 h", "What is to be done");
        }
        Path taken = Files.createDirectory(folder.resolve("taken"));
        assertThatThrownBy(() -> new ProjectReport(project("M 33")).write(taken))
                .isInstanceOf(BadInputException.class);
    }

    /** As the desk copies it: the wishes of the night that lies there come first. */
    @Test
    void theNewestWishesCount() {
        Gathering of = project("M 33").of();
        NightFile onDesk = NightFile.parse(
                Examples.text("colle-sorbo.json")
                        .replace(
                                "\"filters\": [\"L\", \"R\", \"G\", \"B\"], \"subsPerFilter\": 2, \"subSeconds\": 180",
                                "\"goals\": [{\"filter\": \"Ha\", \"subSeconds\": 900, \"hoursWanted\": 6}]"),
                "desk",
                OBJECTS);
        assertThat(Project.of(of, logbook, OBJECTS, Optional.of(onDesk), LocalDate.parse("2026-12-01"))
                        .wanted())
                .containsExactly(entry("Ha", 6.0));
    }

    @AfterEach
    void close() {
        logbook.close();
    }
}
