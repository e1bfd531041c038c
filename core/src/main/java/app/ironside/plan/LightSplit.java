package app.ironside.plan;

import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** How the light of a night is dealt out to a target's filters. */
public enum LightSplit {
    /** As many minutes of each filter. */
    ALIKE("each filter alike"),
    /** Half for the widest filter, which gives the detail, the rest alike for those that give the colour. */
    HALF_LUMINANCE("half to luminance");

    /** A filter that passes so many times what the next one does is no colour of its own. */
    private static final double WIDER = 1.5;

    private final String words;

    LightSplit(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /**
     * The filter that takes the detail: the widest by far of three broad ones or more.
     *
     * @return empty if there is none
     */
    public static Optional<FilterSpec> luminance(List<FilterGoal> goals, Kit kit) {
        List<FilterSpec> broad = goals.stream()
                .map(g -> kit.filter(g.filter()))
                .filter(f -> !f.narrow())
                .sorted(Comparator.comparingDouble(FilterSpec::passNm).reversed())
                .toList();
        boolean stands = broad.size() >= 3
                && broad.get(0).passNm() >= WIDER * broad.get(1).passNm();
        return stands ? Optional.of(broad.get(0)) : Optional.empty();
    }

    /**
     * The goals with the subs that split some light.
     *
     * @param seconds of light to deal out
     * @return empty if this split needs a filter that the goals do not have
     */
    public Optional<List<FilterGoal>> of(List<FilterGoal> goals, Kit kit, double seconds) {
        Optional<String> main = luminance(goals, kit).map(FilterSpec::name);
        if (this == HALF_LUMINANCE && main.isEmpty()) {
            return Optional.empty();
        }
        List<FilterGoal> split = new ArrayList<>();
        for (FilterGoal goal : goals) {
            double share = this == ALIKE
                    ? 1.0 / goals.size()
                    : goal.filter().equals(main.orElseThrow()) ? 0.5 : 0.5 / (goals.size() - 1);
            // Rounded down: what is promised must fit.
            int subs = (int) Math.max(1, Math.floor(share * seconds / goal.subSeconds() + 1e-9));
            split.add(goal.withSubs(Optional.of(subs)));
        }
        return Optional.of(List.copyOf(split));
    }

    /** Minutes of each filter, as goals have them: "L 90 min, R 30 min". */
    public static String minutes(List<FilterGoal> goals) {
        return String.join(
                ", ",
                goals.stream()
                        .map(g -> String.format(
                                Locale.ROOT, "%s %.0f min", g.filter(), g.subs().orElse(0) * g.subSeconds() / 60))
                        .toList());
    }
}
