package app.ironside.night;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The subs of a journal with the verdict that stands: what was told when a sub landed may have been told otherwise since. */
public final class SubVerdicts {
    private SubVerdicts() {}

    /** The same events; each sub carries the last verdict on it. */
    public static List<NightEvent> applied(List<NightEvent> events) {
        Map<String, NightEvent> last = new HashMap<>();
        for (NightEvent event : events) {
            if (event.kind() == EventKind.REGRADED) {
                event.text("file").ifPresent(file -> last.put(file, event));
            }
        }
        if (last.isEmpty()) {
            return events;
        }
        List<NightEvent> applied = new ArrayList<>();
        for (NightEvent event : events) {
            NightEvent later =
                    event.kind() == EventKind.SUB ? last.get(event.text("file").orElse("")) : null;
            applied.add(later == null ? event : with(event, later));
        }
        return applied;
    }

    /** Subs that are kept. */
    public static long kept(List<NightEvent> events) {
        return applied(events).stream()
                .filter(e -> e.kind() == EventKind.SUB && e.isTrue("keep"))
                .count();
    }

    private static NightEvent with(NightEvent sub, NightEvent verdict) {
        Map<String, Object> facts = new LinkedHashMap<>(sub.facts());
        facts.put("keep", verdict.isTrue("keep"));
        facts.put("reason", verdict.text("reason").orElse(""));
        String text = sub.text().replaceFirst(" (kept|out: .*)\\.$", "");
        String stands = verdict.isTrue("keep")
                ? " kept."
                : " out: " + verdict.text("reason").orElse("") + ".";
        return new NightEvent(sub.time(), sub.kind(), text + stands, facts);
    }
}
