package app.ironside.night;

import java.time.Instant;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Something that happened.
 *
 * @param text one sentence for people
 * @param facts the numbers and files behind it: strings, numbers, booleans, lists and maps of them
 */
public record NightEvent(Instant time, EventKind kind, String text, Map<String, Object> facts) {
    public NightEvent {
        facts = Collections.unmodifiableMap(new LinkedHashMap<>(facts));
    }

    public OptionalDouble number(String fact) {
        return facts.get(fact) instanceof Number n ? OptionalDouble.of(n.doubleValue()) : OptionalDouble.empty();
    }

    public Optional<String> text(String fact) {
        return Optional.ofNullable(facts.get(fact)).map(Object::toString);
    }

    public boolean isTrue(String fact) {
        return Boolean.TRUE.equals(facts.get(fact));
    }
}
