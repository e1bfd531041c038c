package app.ironside.logbook;

import app.ironside.Printable;
import app.ironside.night.EventKind;
import app.ironside.night.Journal;
import app.ironside.night.NightEvent;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;

/** A night's journal in the logbook's SQLite file. Keeps a copy in memory, so that reading it costs nothing. Thread-safe. */
final class SqliteJournal implements Journal {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final TypeReference<Map<String, Object>> FACTS = new TypeReference<>() {};

    private final Jdbi jdbi;
    private final long night;
    private final List<NightEvent> events;

    SqliteJournal(Jdbi jdbi, long night) {
        this.jdbi = jdbi;
        this.night = night;
        this.events = new ArrayList<>(jdbi.withHandle(handle -> handle.createQuery(
                        "select time, kind, text, facts from event where night = :night order by id")
                .bind("night", night)
                .map((rs, context) -> new NightEvent(
                        Instant.parse(rs.getString("time")),
                        EventKind.valueOf(rs.getString("kind")),
                        rs.getString("text"),
                        parse(rs.getString("facts"))))
                .list()));
    }

    @Override
    public synchronized void append(NightEvent event) {
        try {
            jdbi.useHandle(handle -> insert(handle, night, event));
        } catch (JdbiException e) {
            throw new UncheckedIOException(
                    "the journal could not be written (" + Printable.line(root(e).getMessage())
                            + "); is the disk full or write-protected? Make room: the night goes on from here",
                    new IOException(e));
        }
        events.add(event);
    }

    @Override
    public synchronized List<NightEvent> events() {
        return List.copyOf(events);
    }

    private static Throwable root(Throwable e) {
        return e.getCause() == null || e.getCause() == e ? e : root(e.getCause());
    }

    static void insert(Handle handle, long night, NightEvent event) {
        handle.createUpdate("insert into event (night, time, kind, text, facts)"
                        + " values (:night, :time, :kind, :text, :facts)")
                .bind("night", night)
                .bind("time", event.time().toString())
                .bind("kind", event.kind().name())
                .bind("text", event.text())
                .bind("facts", write(event.facts()))
                .execute();
    }

    private static String write(Map<String, Object> facts) {
        try {
            return JSON.writeValueAsString(facts);
        } catch (JsonProcessingException e) {
            throw new IllegalArgumentException("facts " + facts.keySet() + " cannot be written as JSON", e);
        }
    }

    private static Map<String, Object> parse(String json) {
        try {
            return JSON.readValue(json, FACTS);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("the journal holds a line that is not JSON: " + json, e);
        }
    }
}
