package app.ironside.desk;

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
import java.util.List;
import java.util.Set;
import java.util.zip.GZIPInputStream;

/** The invented night of the demo, and the three before it, which were rehearsed beforehand and whose journals ship. */
final class DemoNights {
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

    /** Puts the earlier nights into a new logbook. */
    static void importInto(Logbook logbook) {
        try (InputStream in = DemoNights.class.getResourceAsStream("demo/earlier-nights.jsonl.gz");
                BufferedReader reader =
                        new BufferedReader(new InputStreamReader(new GZIPInputStream(in), StandardCharsets.UTF_8))) {
            NightEntry night = null;
            List<EventRow> events = new ArrayList<>();
            for (String line = reader.readLine(); line != null; line = reader.readLine()) {
                JsonNode node = JSON.readTree(line);
                if (node.has("title")) {
                    store(logbook, night, events);
                    night = logbook.begin(
                            node.get("title").asText(),
                            node.get("folder").asText(),
                            node.get("document").asText());
                    events.clear();
                } else {
                    events.add(new EventRow(
                            Instant.parse(node.get("time").asText()),
                            node.get("kind").asText(),
                            node.path("version").asInt(1),
                            node.get("text").asText(),
                            node.get("facts").toString()));
                }
            }
            store(logbook, night, events);
        } catch (IOException e) {
            throw new UncheckedIOException("the demo's earlier nights cannot be read", e);
        }
    }

    private static void store(Logbook logbook, NightEntry night, List<EventRow> events) {
        if (night != null) {
            logbook.importEvents(night, events);
        }
    }
}
