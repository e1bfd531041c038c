package app.ironside.logbook;

import app.ironside.Printable;
import app.ironside.guide.GuideSample;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightResumed;
import app.ironside.journal.NightStarted;
import app.ironside.journal.SubRegraded;
import app.ironside.journal.SubTaken;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.OptionalDouble;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.JdbiException;
import org.jdbi.v3.core.statement.PreparedBatch;

/**
 * The one writer of a logbook, on a connection that is held open: opening one for each event would cost more than the event. With an
 * event goes what follows from it for the other tables, in one transaction. Thread-safe.
 */
final class LogbookWriter implements AutoCloseable {
    private final Handle handle;

    LogbookWriter(Handle handle) {
        this.handle = handle;
    }

    /** Writes guide exposures that came before, and an event; it is on the disk when the call returns. */
    synchronized void append(long night, NightEvent event, List<GuideSample> before) {
        try {
            handle.useTransaction(h -> {
                insert(h, night, before);
                project(h, night, insert(h, night, EventCodec.write(event)), event);
            });
        } catch (JdbiException e) {
            throw unwritten(e);
        }
    }

    synchronized void guided(long night, List<GuideSample> samples) {
        try {
            handle.useTransaction(h -> insert(h, night, samples));
        } catch (JdbiException e) {
            throw unwritten(e);
        }
    }

    /** Writes a night's events as they were recorded elsewhere. */
    synchronized void copy(long night, List<EventRow> rows) {
        handle.useTransaction(h -> {
            for (EventRow row : rows) {
                project(h, night, insert(h, night, row), EventCodec.read(row));
            }
        });
    }

    /** Fills what a night's row and the view of its subs say, from events that are written already. */
    synchronized void look(long night) {
        handle.useTransaction(h -> {
            h.execute("delete from sub where night = ?", night);
            h.createQuery("select id, time, kind, version, text, facts from event where night = :night order by id")
                    .bind("night", night)
                    .map((rs, c) -> new Written(rs.getLong("id"), EventCodec.read(Logbook.row(rs))))
                    .list()
                    .forEach(w -> project(h, night, w.id(), w.event()));
            h.execute("update night set state = coalesce(state, 'begun') where id = ?", night);
        });
    }

    private record Written(long id, NightEvent event) {}

    synchronized <T> T write(java.util.function.Function<Handle, T> work) {
        return work.apply(handle);
    }

    private static long insert(Handle h, long night, EventRow row) {
        return h.createUpdate("insert into event (night, time, kind, version, text, facts)"
                        + " values (:night, :time, :kind, :version, :text, :facts)")
                .bind("night", night)
                .bind("time", row.time().toString())
                .bind("kind", row.kind())
                .bind("version", row.version())
                .bind("text", row.text())
                .bind("facts", row.facts())
                .executeAndReturnGeneratedKeys("id")
                .mapTo(Long.class)
                .one();
    }

    private static void insert(Handle h, long night, List<GuideSample> samples) {
        if (samples.isEmpty()) {
            return;
        }
        PreparedBatch batch = h.prepareBatch(
                "insert into guide_sample (night, time, ra_arcsec, dec_arcsec, ra_pulse_ms, dec_pulse_ms, snr)"
                        + " values (:night, :time, :ra, :dec, :raPulse, :decPulse, :snr)");
        for (GuideSample s : samples) {
            batch.bind("night", night)
                    .bind("time", s.time().toString())
                    .bind("ra", s.raArcsec())
                    .bind("dec", s.decArcsec())
                    .bind("raPulse", s.raPulseMs())
                    .bind("decPulse", s.decPulseMs())
                    .bind("snr", s.snr())
                    .add();
        }
        batch.execute();
    }

    private static void project(Handle h, long night, long id, NightEvent event) {
        if (event instanceof NightStarted started) {
            h.execute(
                    "update night set date = ?, site = ?, kit = ?, state = 'begun', origin = ? where id = ?",
                    started.date().toString(),
                    started.site(),
                    started.kit(),
                    Logbook.origin(started.provenance()),
                    night);
        } else if (event instanceof NightResumed) {
            h.execute("update night set state = 'begun' where id = ?", night);
        } else if (event instanceof NightEnded) {
            h.execute("update night set state = 'ended' where id = ?", night);
        } else if (event instanceof SubTaken sub) {
            insert(h, night, id, sub);
        } else if (event instanceof SubRegraded regraded) {
            h.execute(
                    "update sub set keep = ?, reason = ?, cause = ? where night = ? and file = ?",
                    regraded.verdict().keep() ? 1 : 0,
                    regraded.verdict().reason(),
                    regraded.verdict().cause().orElse(null),
                    night,
                    regraded.file());
        }
    }

    private static void insert(Handle h, long night, long id, SubTaken sub) {
        h.createUpdate("insert into sub values (:event, :night, :time, :target, :filter, :seconds, :file, :keep,"
                        + " :reason, :stars, :hfr, :fwhm, :eccentricity, :background, :noise, :altitude, :temperature,"
                        + " :focus, :pier, :guiding, :cause)")
                .bind("event", id)
                .bind("night", night)
                .bind("time", sub.time().toString())
                .bind("target", sub.target())
                .bind("filter", sub.filter())
                .bind("seconds", sub.seconds())
                .bind("file", sub.file())
                .bind("keep", sub.kept() ? 1 : 0)
                .bind("reason", sub.verdict().reason())
                .bind("stars", sub.measures().stars())
                .bind("hfr", boxed(sub.measures().hfrPx()))
                .bind("fwhm", boxed(sub.measures().fwhmPx()))
                .bind("eccentricity", boxed(sub.measures().eccentricity()))
                .bind("background", sub.measures().backgroundAdu())
                .bind("noise", sub.measures().noiseAdu())
                .bind("altitude", boxed(sub.circumstances().altitudeDeg()))
                .bind("temperature", boxed(sub.circumstances().temperatureC()))
                .bind(
                        "focus",
                        sub.circumstances().focusSteps().isPresent()
                                ? sub.circumstances().focusSteps().getAsInt()
                                : null)
                .bind("pier", sub.circumstances().pierSide().map(Enum::name).orElse(null))
                .bind("guiding", boxed(sub.guiding().rmsTotalArcsec()))
                .bind("cause", sub.verdict().cause().orElse(null))
                .execute();
    }

    private static Double boxed(OptionalDouble value) {
        return value.isPresent() ? value.getAsDouble() : null;
    }

    private static UncheckedIOException unwritten(JdbiException e) {
        return new UncheckedIOException(
                "the journal could not be written (" + Printable.line(root(e).getMessage())
                        + "); is the disk full or write-protected? Make room: the night goes on from here",
                new IOException(e));
    }

    private static Throwable root(Throwable e) {
        return e.getCause() == null || e.getCause() == e ? e : root(e.getCause());
    }

    @Override
    public synchronized void close() {
        handle.close();
    }
}
