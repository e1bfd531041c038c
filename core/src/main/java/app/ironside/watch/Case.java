package app.ironside.watch;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * One thing that is wrong, with the causes that fit what was seen.
 *
 * @param lead the surest cause
 * @param rivals what fits too, the surer first
 */
public record Case(Finding lead, List<Finding> rivals) {
    public Case {
        rivals = List.copyOf(rivals);
    }

    /** Findings that rest on the same sight compete; others stand beside each other. The surest case first. */
    public static List<Case> of(List<Finding> findings) {
        Map<String, List<Finding>> sights = new LinkedHashMap<>();
        findings.stream()
                .sorted(Comparator.comparingDouble(Finding::certainty).reversed())
                .forEach(f -> sights.computeIfAbsent(f.since() + f.sentence(), s -> new ArrayList<>())
                        .add(f));
        return sights.values().stream()
                .map(s -> new Case(s.get(0), s.subList(1, s.size())))
                .toList();
    }

    /** All its causes. */
    public List<Finding> causes() {
        List<Finding> all = new ArrayList<>(List.of(lead));
        all.addAll(rivals);
        return all;
    }
}
