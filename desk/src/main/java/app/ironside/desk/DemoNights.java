package app.ironside.desk;

import app.ironside.guide.GuideSample;
import app.ironside.kit.KitFile;
import app.ironside.logbook.EventRow;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.sky.SiteFile;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.zip.GZIPInputStream;

/** The invented night of the demo, and the three before it, which were rehearsed beforehand and whose journals ship. */
final class DemoNights {
    private static final String EARLIER = "demo/earlier-nights.jsonl.gz";
    private static final String TONIGHT = "demo/tonight.jsonl.gz";
    private static final ObjectMapper JSON = new ObjectMapper();

    /** What the demo's imager has pictures of already. */
    private static final Set<String> ALREADY_TAKEN = Set.of(
            "M 16",
            "M 17",
            "M 31",
            "M 32",
            "M 42",
            "M 43",
            "M 51",
            "M 57",
            "M 65",
            "M 66",
            "M 78",
            "M 81",
            "M 82",
            "M 101",
            "M 106",
            "M 110",
            "IC 434",
            "IC 1805",
            "IC 5070",
            "NGC 1499",
            "NGC 1976",
            "NGC 1982",
            "NGC 2024",
            "NGC 2237",
            "NGC 2244",
            "NGC 3372",
            "NGC 3628",
            "NGC 5566",
            "NGC 6960",
            "NGC 6992",
            "NGC 6995",
            "NGC 7000",
            "NGC 7023");

    private DemoNights() {}

    /** The demo's night as a night file. */
    static String tonight() {
        return text("demo/colle-sorbo.json");
    }

    /** The invented kits and the site, as they ship. */
    static void importProfiles(Profiles profiles) {
        for (String kit : new String[] {"wren", "lark", "heron"}) {
            profiles.save(KitFile.parse(text("demo/kits/" + kit + ".json"), kit + ".json"));
        }
        profiles.save(SiteFile.parse(text("demo/sites/colle-sorbo.json"), "colle-sorbo.json"));
        profiles.saveSetAside(ALREADY_TAKEN);
    }

    private static String text(String resource) {
        try (InputStream in = DemoNights.class.getResourceAsStream(resource)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException("the demo inside the application cannot be read", e);
        }
    }

    /** Puts the earlier nights into a new logbook, and tonight as it stands: an hour of subs taken, and going on. */
    static void importInto(Logbook logbook) {
        begin(logbook);
        complete(logbook);
    }

    /** The three nights before tonight. */
    static void importEarlier(Logbook logbook) {
        recorded(EARLIER, true).forEach(night -> night.begin(logbook));
        complete(logbook);
    }

    /** The titles of the earlier nights, and tonight whole: what the desk needs before it can open. */
    static void begin(Logbook logbook) {
        for (Recorded night : recorded(EARLIER, true)) {
            night.begin(logbook);
        }
        importTonight(logbook);
    }

    /** What the earlier nights tell, for those of which nothing is told yet. */
    static void complete(Logbook logbook) {
        Map<String, NightEntry> kept = new HashMap<>();
        logbook.nights().forEach(n -> kept.put(n.folder().getFileName().toString(), n));
        for (Recorded night : recorded(EARLIER, false)) {
            Optional.ofNullable(kept.get(night.folder()))
                    .filter(n -> logbook.journal(n).events().isEmpty())
                    .ifPresent(n -> night.fill(logbook, n));
        }
    }

    /** The demo's night as far as it is under way when the demo opens. */
    static void importTonight(Logbook logbook) {
        recorded(TONIGHT, false).forEach(night -> night.fill(logbook, night.begin(logbook)));
    }

    /** A night as it was recorded. */
    private record Recorded(
            String title, String folder, String document, List<EventRow> events, List<GuideSample> guiding) {
        /** A night that was run before has its frames; another of the same date gets a folder of its own. */
        NightEntry begin(Logbook logbook) {
            List<NightEntry> nights = logbook.nights();
            boolean taken = nights.stream()
                    .anyMatch(n -> n.folder().getFileName().toString().equals(folder));
            return logbook.begin(title, taken ? folder + "-" + (nights.size() + 1) : folder, document);
        }

        void fill(Logbook logbook, NightEntry night) {
            logbook.importGuiding(night, guiding);
            logbook.importEvents(night, events);
        }
    }

    /**
     * A night is a line that names it, then a line for each event, then one with its guide exposures.
     *
     * @param titles whether what it tells is left out
     */
    private static List<Recorded> recorded(String resource, boolean titles) {
        try (InputStream in = DemoNights.class.getResourceAsStream(resource);
                BufferedReader reader =
                        new BufferedReader(new InputStreamReader(new GZIPInputStream(in), StandardCharsets.UTF_8))) {
            List<Recorded> nights = new ArrayList<>();
            for (String line = reader.readLine(); line != null; line = reader.readLine()) {
                boolean title = line.startsWith("{\"title\"");
                if (titles && !title) {
                    continue;
                }
                JsonNode node = JSON.readTree(line);
                if (title) {
                    nights.add(new Recorded(
                            node.get("title").asText(),
                            node.get("folder").asText(),
                            node.get("document").asText(),
                            new ArrayList<>(),
                            new ArrayList<>()));
                    continue;
                }
                Recorded night = nights.get(nights.size() - 1);
                if (node.has("guiding")) {
                    night.guiding().addAll(samples(node.get("guiding")));
                } else {
                    night.events()
                            .add(new EventRow(
                                    Instant.parse(node.get("time").asText()),
                                    node.get("kind").asText(),
                                    node.path("version").asInt(1),
                                    node.get("text").asText(),
                                    node.get("facts").toString()));
                }
            }
            return nights;
        } catch (IOException e) {
            throw new UncheckedIOException("the demo's nights cannot be read", e);
        }
    }

    private static List<GuideSample> samples(JsonNode rows) {
        List<GuideSample> samples = new ArrayList<>();
        for (JsonNode row : rows) {
            samples.add(new GuideSample(
                    Instant.parse(row.get(0).asText()),
                    row.get(1).asDouble(),
                    row.get(2).asDouble(),
                    row.get(3).asDouble(Double.NaN),
                    row.get(4).asDouble(Double.NaN),
                    row.get(5).asDouble(Double.NaN)));
        }
        return samples;
    }
}
