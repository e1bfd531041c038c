package app.ironside.desk;

import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import com.fasterxml.jackson.core.type.TypeReference;
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
import java.util.Map;
import java.util.zip.GZIPInputStream;

/** The invented night of the demo, and the three before it, which were rehearsed beforehand and whose journals ship. */
final class DemoNights {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final TypeReference<Map<String, Object>> FACTS = new TypeReference<>() {};

    private DemoNights() {}

    /** The demo's night as a night file. */
    static String tonight() {
        try (InputStream in = DemoNights.class.getResourceAsStream("demo/colle-sorbo.json")) {
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
            List<NightEvent> events = new ArrayList<>();
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
                    events.add(new NightEvent(
                            Instant.parse(node.get("time").asText()),
                            EventKind.valueOf(node.get("kind").asText()),
                            node.get("text").asText(),
                            JSON.convertValue(node.get("facts"), FACTS)));
                }
            }
            store(logbook, night, events);
        } catch (IOException e) {
            throw new UncheckedIOException("the demo's earlier nights cannot be read", e);
        }
    }

    private static void store(Logbook logbook, NightEntry night, List<NightEvent> events) {
        if (night != null) {
            logbook.importEvents(night, events);
        }
    }
}
