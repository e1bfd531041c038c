package app.ironside.library;

import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;

/**
 * Which calibration frames fit which lights, and why not the others. What must agree where both tell it: camera, size, binning and mosaic
 * always; gain and offset for darks, bias and flat darks; exposure and temperature for darks; the filter for flats. A flat of another night
 * may serve and is said to be of another (common practice).
 */
final class Matching {
    /** Dark current goes with time. */
    private static final double SAME_EXPOSURE = 0.02;

    /** Dark current doubles every 5 to 7 °C: within two degrees a dark's glow is right to a quarter (common practice). */
    static final double SAME_TEMPERATURE_C = 2.0;

    /** The bias level of a sensor hardly goes with its temperature. */
    private static final double BIAS_TEMPERATURE_C = 10;

    /** A camera turned by more moves vignetting and dust on the sensor's picture. */
    private static final double SAME_ANGLE_DEG = 2;

    /** A dark half as long as the lights may be scaled up; what is noise in it grows as much. */
    private static final double MOST_DARK_SCALE = 2;

    private Matching() {}

    /** A condition with what to say where it is broken. */
    private record Rule(Function<FrameSet, Optional<String>> broken) {}

    static List<Match> of(List<FrameSet> sets, Told told) {
        return sets.stream()
                .filter(s -> s.kind() == FrameKind.LIGHT)
                .map(s -> match(s, sets, told))
                .toList();
    }

    private static Match match(FrameSet lights, List<FrameSet> sets, Told told) {
        List<String> why = new ArrayList<>();
        Optional<FrameSet> dark = choose(
                "dark",
                lights,
                of(sets, FrameKind.DARK, FrameKind.MASTER_DARK),
                darkRules(lights),
                nearest(lights),
                why);
        Optional<FrameSet> bias = choose(
                "bias",
                lights,
                of(sets, FrameKind.BIAS, FrameKind.MASTER_BIAS),
                biasRules(lights),
                nearest(lights),
                why);
        Optional<FrameSet> flat = choose(
                "flat",
                lights,
                of(sets, FrameKind.FLAT, FrameKind.MASTER_FLAT),
                flatRules(lights, told),
                flatOrder(lights),
                why);
        Optional<FrameSet> flatDark = flat.filter(f -> f.kind() == FrameKind.FLAT)
                .flatMap(f -> choose(
                        "flat dark",
                        f,
                        f.exposureS().isPresent()
                                ? of(sets, FrameKind.FLAT_DARK, FrameKind.DARK, FrameKind.MASTER_DARK)
                                : of(sets, FrameKind.FLAT_DARK),
                        darkRules(f),
                        nearest(f),
                        why));
        if (flat.isPresent() && flatDark.isEmpty() && bias.isPresent()) {
            why.removeIf(w -> w.startsWith("No flat dark"));
            why.add("Flat dark: none of the flats' own exposure; the bias is taken off them instead.");
        }
        Optional<FrameSet> toScale = dark.isEmpty() && bias.isPresent() ? darkToScale(lights, sets) : Optional.empty();
        toScale.ifPresent(
                d -> why.add("Dark: " + d.words() + " could be scaled to the lights' exposure above the bias."));
        return new Match(lights, dark, toScale, bias, flat, flatDark, why);
    }

    /** One that differs in its exposure alone: the longest first, for it has the least noise, but none that is far too short. */
    private static Optional<FrameSet> darkToScale(FrameSet lights, List<FrameSet> sets) {
        if (lights.exposureS().orElse(0) <= 0) {
            return Optional.empty();
        }
        List<Rule> rules = settings(lights);
        rules.add(temperature(lights));
        return of(sets, FrameKind.DARK, FrameKind.MASTER_DARK).stream()
                .filter(s -> broken(s, rules).isEmpty())
                .filter(s -> s.exposureS().orElse(0) > 0
                        && lights.exposureS().getAsDouble() / s.exposureS().getAsDouble() <= MOST_DARK_SCALE)
                .max(Comparator.comparingDouble((FrameSet s) -> s.exposureS().getAsDouble())
                        .thenComparingInt(FrameSet::depth)
                        .thenComparing(FrameSet::id));
    }

    private static Rule temperature(FrameSet lights) {
        return number("", " °C", lights.temperatureC(), FrameSet::temperatureC, w -> SAME_TEMPERATURE_C);
    }

    private static List<FrameSet> of(List<FrameSet> sets, FrameKind... kinds) {
        return sets.stream().filter(s -> List.of(kinds).contains(s.kind())).toList();
    }

    private static List<Rule> sensorRules(FrameSet lights) {
        return List.of(
                same("camera", lights.camera(), FrameSet::camera),
                new Rule(s -> size(s).equals(size(lights))
                        ? Optional.empty()
                        : Optional.of(size(s) + " instead of " + size(lights))),
                new Rule(s -> s.binning().isEmpty()
                                || lights.binning().isEmpty()
                                || s.binning().equals(lights.binning())
                        ? Optional.empty()
                        : Optional.of("binning " + s.binning().getAsInt() + " instead of "
                                + lights.binning().getAsInt())),
                same("mosaic", lights.bayer(), FrameSet::bayer));
    }

    private static String size(FrameSet s) {
        return s.widthPx() + " x " + s.heightPx() + " pixels"
                + (s.planes() == 1 ? "" : " in " + s.planes() + " planes");
    }

    private static Rule same(String what, Optional<String> wanted, Function<FrameSet, Optional<String>> told) {
        return new Rule(s -> told.apply(s).isEmpty()
                        || wanted.isEmpty()
                        || told.apply(s).get().equalsIgnoreCase(wanted.get())
                ? Optional.empty()
                : Optional.of(what + " " + told.apply(s).get() + " instead of " + wanted.get()));
    }

    private static Rule number(
            String what,
            String unit,
            OptionalDouble wanted,
            Function<FrameSet, OptionalDouble> told,
            ToDoubleFunction<Double> within) {
        return new Rule(s -> {
            OptionalDouble has = told.apply(s);
            if (has.isEmpty()
                    || wanted.isEmpty()
                    || Math.abs(has.getAsDouble() - wanted.getAsDouble())
                            <= within.applyAsDouble(wanted.getAsDouble())) {
                return Optional.empty();
            }
            return Optional.of((what + " " + Numbers.of(has.getAsDouble()) + unit + " instead of "
                            + Numbers.of(wanted.getAsDouble()) + unit)
                    .strip());
        });
    }

    private static List<Rule> settings(FrameSet lights) {
        List<Rule> rules = new ArrayList<>(sensorRules(lights));
        rules.add(number("gain", "", lights.gain(), FrameSet::gain, w -> 1e-6 + 1e-6 * Math.abs(w)));
        rules.add(number("offset", "", lights.offset(), FrameSet::offset, w -> 1e-6 + 1e-6 * Math.abs(w)));
        return rules;
    }

    private static List<Rule> darkRules(FrameSet lights) {
        List<Rule> rules = settings(lights);
        rules.add(number("", " s", lights.exposureS(), FrameSet::exposureS, w -> Math.max(0.02, SAME_EXPOSURE * w)));
        rules.add(temperature(lights));
        return rules;
    }

    private static List<Rule> biasRules(FrameSet lights) {
        List<Rule> rules = settings(lights);
        rules.add(number("", " °C", lights.temperatureC(), FrameSet::temperatureC, w -> BIAS_TEMPERATURE_C));
        return rules;
    }

    private static List<Rule> flatRules(FrameSet lights, Told told) {
        List<Rule> rules = new ArrayList<>(sensorRules(lights));
        rules.add(new Rule(s -> {
            String has = s.filter().map(f -> f.toLowerCase(Locale.ROOT)).orElse("");
            String wanted = lights.filter().map(f -> f.toLowerCase(Locale.ROOT)).orElse("");
            return has.equals(wanted)
                    ? Optional.empty()
                    : Optional.of("filter " + s.filter().orElse("not told") + " instead of "
                            + lights.filter().orElse("none told"));
        }));
        rules.add(new Rule(s -> turned(s, lights) <= SAME_ANGLE_DEG
                ? Optional.empty()
                : Optional.of("camera turned by " + Math.round(turned(s, lights)) + "°")));
        rules.add(new Rule(s -> told.voids(s, lights)
                .map(c -> "a change between them: " + c.kind().words() + " on " + c.on())));
        return rules;
    }

    private static double turned(FrameSet flat, FrameSet lights) {
        if (flat.rotatorDeg().isEmpty() || lights.rotatorDeg().isEmpty()) {
            return 0;
        }
        return Math.abs(Math.IEEEremainder(
                flat.rotatorDeg().getAsDouble() - lights.rotatorDeg().getAsDouble(), 360));
    }

    /** Nearest in temperature, then deepest. */
    private static Comparator<FrameSet> nearest(FrameSet lights) {
        return Comparator.comparingDouble((FrameSet s) -> s.kind() == FrameKind.FLAT_DARK ? 0 : 1)
                .thenComparingDouble(s -> Math.round(
                        Math.abs(s.temperatureC().orElse(lights.temperatureC().orElse(0))
                                - lights.temperatureC().orElse(0))))
                .thenComparingInt(s -> -s.depth())
                .thenComparing(FrameSet::id);
    }

    /** Of the same night, then of the nearest, then deepest. */
    private static Comparator<FrameSet> flatOrder(FrameSet lights) {
        return Comparator.comparingLong((FrameSet s) -> apartDays(s, lights))
                .thenComparingInt(s -> -s.depth())
                .thenComparing(FrameSet::id);
    }

    private static long apartDays(FrameSet flat, FrameSet lights) {
        return flat.night().isPresent() && lights.night().isPresent()
                ? Math.abs(ChronoUnit.DAYS.between(
                        flat.night().get(), lights.night().get()))
                : 0;
    }

    private static Optional<FrameSet> choose(
            String what,
            FrameSet lights,
            List<FrameSet> there,
            List<Rule> rules,
            Comparator<FrameSet> order,
            List<String> why) {
        List<FrameSet> fitting = there.stream()
                .filter(s -> broken(s, rules).isEmpty())
                .sorted(order)
                .toList();
        String head = Character.toUpperCase(what.charAt(0)) + what.substring(1) + ": ";
        if (!fitting.isEmpty()) {
            FrameSet best = fitting.get(0);
            why.add(head + best.words() + about(best, lights, what) + ".");
            return Optional.of(best);
        }
        if (there.isEmpty()) {
            why.add("No " + what + ": there is none in these folders.");
            return Optional.empty();
        }
        FrameSet near = there.stream()
                .min(Comparator.comparingInt(s -> broken(s, rules).size()))
                .orElseThrow();
        why.add("No " + what + " fits; the nearest, " + near.words() + ", has "
                + String.join(" and ", broken(near, rules)) + ".");
        return Optional.empty();
    }

    private static String about(FrameSet best, FrameSet lights, String what) {
        List<String> about = new ArrayList<>();
        boolean lightless = !what.equals("flat");
        if (lightless
                && !what.equals("bias")
                && best.temperatureC().isEmpty() != lights.temperatureC().isEmpty()) {
            about.add("the temperature of one of them is not told");
        } else if (lightless && !what.equals("bias") && lights.temperatureC().isPresent()) {
            double apart = Math.abs(
                    best.temperatureC().getAsDouble() - lights.temperatureC().getAsDouble());
            if (apart >= 0.5) {
                about.add(String.format(Locale.ROOT, "%.1f °C from the lights", apart));
            }
        }
        if (lightless && best.gain().isEmpty() != lights.gain().isEmpty()) {
            about.add("the gain of one of them is not told");
        }
        long days = what.equals("flat") ? apartDays(best, lights) : 0;
        if (days > 0) {
            about.add(days + (days == 1 ? " night" : " nights") + " from the lights', dust may have moved");
        }
        return about.stream().reduce("", (a, b) -> a + (a.isEmpty() ? "; " : ", ") + b);
    }

    private static List<String> broken(FrameSet set, List<Rule> rules) {
        return rules.stream().flatMap(r -> r.broken().apply(set).stream()).toList();
    }
}
