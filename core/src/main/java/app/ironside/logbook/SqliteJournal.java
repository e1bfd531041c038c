package app.ironside.logbook;

import app.ironside.guide.GuideSample;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import java.util.ArrayList;
import java.util.List;

/**
 * A night's journal in the logbook's SQLite file. Keeps a copy in memory, so that reading it costs nothing. Guide exposures come every
 * other second: they are written with the next event, or a minute's worth together. Thread-safe.
 */
final class SqliteJournal implements Journal {
    private static final int TOGETHER = 30;

    private final LogbookWriter writer;
    private final long night;
    private final List<NightEvent> events = new ArrayList<>();
    private final List<GuideSample> samples = new ArrayList<>();
    private final List<GuideSample> waiting = new ArrayList<>();

    SqliteJournal(LogbookWriter writer, long night, List<EventRow> rows, List<GuideSample> kept) {
        this.writer = writer;
        this.night = night;
        for (EventRow row : rows) {
            events.add(EventCodec.read(row));
            samples.addAll(EventCodec.samplesWithin(row));
        }
        samples.addAll(kept);
    }

    @Override
    public synchronized void append(NightEvent event) {
        writer.append(night, event, waiting);
        waiting.clear();
        events.add(event);
    }

    @Override
    public synchronized List<NightEvent> events() {
        return List.copyOf(events);
    }

    @Override
    public synchronized void guided(GuideSample sample) {
        samples.add(sample);
        waiting.add(sample);
        if (waiting.size() >= TOGETHER) {
            writer.guided(night, waiting);
            waiting.clear();
        }
    }

    @Override
    public synchronized List<GuideSample> guiding() {
        return List.copyOf(samples);
    }
}
