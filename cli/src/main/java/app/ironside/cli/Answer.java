package app.ironside.cli;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * What a verb has to say.
 *
 * @param possible false ends with exit code 1 and a {@code reason} among the facts
 */
record Answer(Map<String, Object> facts, boolean possible) {
    static Answer done(Map<String, Object> facts) {
        return new Answer(facts, true);
    }

    /** Done, unless there is a reason why not. */
    static Answer unless(Optional<String> reason, Map<String, Object> facts) {
        return reason.map(r -> impossible(r, facts)).orElseGet(() -> done(facts));
    }

    static Answer impossible(String reason, Map<String, Object> facts) {
        Map<String, Object> all = new LinkedHashMap<>(facts);
        all.put("reason", reason);
        return new Answer(all, false);
    }

    /** Facts in the order given: name, value, name, value. */
    static Map<String, Object> facts(Object... namesAndValues) {
        Map<String, Object> facts = new LinkedHashMap<>();
        for (int i = 0; i < namesAndValues.length; i += 2) {
            facts.put((String) namesAndValues[i], namesAndValues[i + 1]);
        }
        return facts;
    }
}
