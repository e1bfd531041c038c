package app.ironside.library;

import app.ironside.FileNames;
import app.ironside.image.Statistics;
import app.ironside.library.Library.Indexed;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/** Gathers frames into sets. */
final class Sets {
    /** Flats of one filter and night are levelled to one another; their exposure is told where it is one. */
    private static final double SAME_FLAT_EXPOSURE = 0.05;

    /** Frames without light of an uncooled camera are one set within so many degrees: dark current changes by a quarter (common practice). */
    private static final double WITHIN_C = 2.0;

    /** A step between neighbours by which a cooled camera was set to another temperature. */
    private static final double STEP_C = 1.5;

    /** Lights of an uncooled camera drift through the night and stay one set; a wider jump is another setting. */
    private static final double JUMP_C = 2.5;

    private Sets() {}

    static List<FrameSet> of(List<Indexed> frames) {
        List<Indexed> lights =
                frames.stream().filter(f -> f.facts().kind() == FrameKind.LIGHT).toList();
        Map<String, String> targets = names(frames, FrameFacts::target, FrameFacts::key);
        // As the lights write it: flats may come from another program.
        Map<String, String> filters = names(frames, FrameFacts::filter, Sets::filterKey);
        filters.putAll(names(lights, FrameFacts::filter, Sets::filterKey));
        Map<String, List<Indexed>> alike = new LinkedHashMap<>();
        for (Indexed frame : frames) {
            alike.computeIfAbsent(key(frame.facts()), k -> new ArrayList<>()).add(frame);
        }
        List<List<Indexed>> groups = new ArrayList<>();
        for (List<Indexed> group : alike.values()) {
            boolean light = group.get(0).facts().kind().sawLight();
            groups.addAll(byTemperature(group, light));
        }
        groups.forEach(g ->
                g.sort(Comparator.comparing((Indexed f) -> f.facts().start().orElse(Instant.MAX))
                        .thenComparing(f -> f.file().toString())));
        groups.sort(Comparator.comparing((List<Indexed> g) -> g.get(0).facts().kind())
                .thenComparing(g -> g.get(0).facts().target().orElse(""))
                .thenComparing(g -> g.get(0).facts().filter().orElse(""))
                .thenComparing(g -> g.get(0).facts().exposureS().orElse(-1))
                .thenComparing(
                        g -> g.get(0).facts().night().map(Object::toString).orElse(""))
                .thenComparing(g -> g.get(0).file().toString()));
        Map<String, Integer> taken = new HashMap<>();
        return groups.stream().map(g -> set(g, targets, filters, taken)).toList();
    }

    private static String key(FrameFacts f) {
        return String.join(
                "\n",
                f.kind().word(),
                f.target().map(FrameFacts::key).orElse(""),
                f.filter().map(Sets::filterKey).orElse(""),
                f.kind() == FrameKind.FLAT ? "" : rounded(f.exposureS()),
                text(f.gain()),
                text(f.offset()),
                f.binning().isPresent() ? "" + f.binning().getAsInt() : "",
                f.widthPx() + "x" + f.heightPx() + "x" + f.planes(),
                f.bayer().orElse(""),
                f.camera().orElse(""),
                f.kind().sawLight() ? f.night().map(Object::toString).orElse("") : "");
    }

    /** To three digits: a shutter's own word differs from the wanted time by less. */
    private static String rounded(OptionalDouble seconds) {
        return seconds.isEmpty() ? "" : String.format(Locale.ROOT, "%.2e", seconds.getAsDouble());
    }

    private static String text(OptionalDouble value) {
        return value.isPresent() ? "" + value.getAsDouble() : "";
    }

    /** Those without a temperature are a set of their own. */
    private static List<List<Indexed>> byTemperature(List<Indexed> group, boolean light) {
        List<List<Indexed>> parts = new ArrayList<>();
        List<Indexed> untold = new ArrayList<>();
        List<Indexed> told = new ArrayList<>();
        group.forEach(f -> (f.facts().temperatureC().isPresent() ? told : untold).add(f));
        if (!untold.isEmpty()) {
            parts.add(untold);
        }
        told.sort(Comparator.comparingDouble(f -> f.facts().temperatureC().getAsDouble()));
        double first = 0;
        double last = 0;
        for (Indexed frame : told) {
            double c = frame.facts().temperatureC().getAsDouble();
            boolean other = light ? c - last > JUMP_C : c - first > WITHIN_C || c - last > STEP_C;
            if (parts.size() == (untold.isEmpty() ? 0 : 1) || other) {
                parts.add(new ArrayList<>());
                first = c;
            }
            last = c;
            parts.get(parts.size() - 1).add(frame);
        }
        return parts;
    }

    private static FrameSet set(
            List<Indexed> group, Map<String, String> targets, Map<String, String> filters, Map<String, Integer> taken) {
        List<FrameFacts> facts = group.stream().map(Indexed::facts).toList();
        FrameFacts one = facts.get(0);
        OptionalDouble temperature = median(facts, FrameFacts::temperatureC);
        Optional<String> target = one.target().map(t -> targets.get(FrameFacts.key(t)));
        Optional<String> filter = one.filter().map(f -> filters.get(filterKey(f)));
        String id = id(one, target, filter, temperature);
        int count = taken.merge(id, 1, Integer::sum);
        return new FrameSet(
                count == 1 ? id : id + "-" + count,
                one.kind(),
                target,
                filter,
                exposure(facts),
                one.gain(),
                one.offset(),
                temperature,
                one.binning(),
                one.widthPx(),
                one.heightPx(),
                one.planes(),
                one.bayer(),
                one.camera(),
                one.telescope(),
                one.kind().sawLight() ? one.night() : Optional.empty(),
                median(facts, FrameFacts::rotatorDeg),
                one.combined(),
                group.stream().map(Indexed::file).toList());
    }

    private static OptionalDouble exposure(List<FrameFacts> facts) {
        OptionalDouble middle = median(facts, FrameFacts::exposureS);
        boolean one = middle.isPresent()
                && facts.stream()
                        .flatMapToDouble(f -> f.exposureS().stream())
                        .allMatch(s -> Math.abs(s - middle.getAsDouble()) <= SAME_FLAT_EXPOSURE * middle.getAsDouble());
        return one ? middle : OptionalDouble.empty();
    }

    private static OptionalDouble median(List<FrameFacts> facts, Function<FrameFacts, OptionalDouble> what) {
        double[] told =
                facts.stream().flatMapToDouble(f -> what.apply(f).stream()).toArray();
        return told.length == 0 ? OptionalDouble.empty() : OptionalDouble.of(Statistics.median(told));
    }

    private static String filterKey(String filter) {
        return filter.strip().toLowerCase(Locale.ROOT);
    }

    /**
     * One name for what is written in more than one way, over all frames: the most usual; of equally usual ones that with a gap reads best.
     *
     * @param key by which two ways of writing are the same
     */
    private static Map<String, String> names(
            List<Indexed> frames, Function<FrameFacts, Optional<String>> what, UnaryOperator<String> key) {
        Map<String, Map<String, Integer>> counts = new LinkedHashMap<>();
        for (Indexed frame : frames) {
            what.apply(frame.facts()).ifPresent(name -> counts.computeIfAbsent(key.apply(name), k -> new TreeMap<>())
                    .merge(name, 1, Integer::sum));
        }
        Map<String, String> names = new HashMap<>();
        counts.forEach((k, written) -> names.put(
                k,
                Collections.max(
                                written.entrySet(),
                                Map.Entry.<String, Integer>comparingByValue()
                                        .thenComparing(e -> e.getKey().contains(" ") ? 1 : 0))
                        .getKey()));
        return names;
    }

    /** What a person would say of the set, as one word. */
    private static String id(
            FrameFacts f, Optional<String> target, Optional<String> filter, OptionalDouble temperature) {
        List<String> parts = new ArrayList<>(List.of(f.kind().word()));
        target.ifPresent(parts::add);
        filter.ifPresent(parts::add);
        if (f.exposureS().isPresent() && f.kind() != FrameKind.FLAT) {
            parts.add(Numbers.of(f.exposureS().getAsDouble()) + "s");
        }
        if (f.gain().isPresent()) {
            parts.add("g" + Numbers.of(f.gain().getAsDouble()));
        }
        if (temperature.isPresent() && !f.kind().sawLight()) {
            parts.add(Math.round(temperature.getAsDouble()) + "C");
        }
        if (f.binning().orElse(1) > 1) {
            parts.add("bin" + f.binning().getAsInt());
        }
        if (f.kind().sawLight()) {
            f.night().ifPresent(n -> parts.add(n.toString()));
        }
        return FileNames.plain(String.join("-", parts), "-").toLowerCase(Locale.ROOT);
    }
}
