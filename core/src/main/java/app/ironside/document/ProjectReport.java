package app.ironside.document;

import app.ironside.logbook.Gathering;
import app.ironside.logbook.TargetNight;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;

/**
 * A picture of many nights told on paper: what was kept of what is wanted, what each night gave and lost, the first picture and the last, and what
 * is to be done.
 */
public record ProjectReport(Project project) {
    /** A loss smaller than this share of all that was taken is not worth a line of what is to be done. */
    private static final double WORTH_TELLING = 0.05;

    /** Writes it whole or not at all: as PDF, or as a page where the name ends in .html. */
    public void write(Path to) {
        Sheet.write(to, html());
    }

    /** The project as XHTML without anything outside it. */
    public String html() {
        Gathering of = project.of();
        Sheet h = new Sheet(project.title());
        h.paragraph(project.sentence());
        if (of.rehearsed()) {
            h.paragraph("No night saw a sky: all of it was rehearsed.");
        }
        h.heading("Light kept");
        h.picture(new GrowthChart(project).png(), "hours kept by filter, night by night, and hours wanted");
        h.paragraph("Each shade is a night; the thick line is what is wanted.");
        filters(h);
        nights(h);
        pictures(h);
        next(h);
        return h.html();
    }

    private void filters(Sheet h) {
        Map<String, Double> left = project.of().left(project.wanted());
        h.table("filter", "kept", "wanted", "left", "subs kept", "star size");
        for (String filter : project.filters()) {
            List<TargetNight.OfFilter> parts = project.nights().stream()
                    .flatMap(n -> n.filters().stream())
                    .filter(f -> f.filter().equals(filter))
                    .toList();
            h.row(
                    filter,
                    hours(project.of().kept().getOrDefault(filter, 0.0)),
                    Optional.ofNullable(project.wanted().get(filter))
                            .map(ProjectReport::hours)
                            .orElse("–"),
                    Optional.ofNullable(left.get(filter))
                            .map(ProjectReport::hours)
                            .orElse("–"),
                    parts.stream().mapToInt(TargetNight.OfFilter::kept).sum() + " of "
                            + parts.stream()
                                    .mapToInt(TargetNight.OfFilter::taken)
                                    .sum(),
                    TargetNight.usual(parts.stream()
                                    .flatMap(f -> f.sizesPx().stream())
                                    .toList())
                            .stream()
                            .mapToObj(px -> String.format(Locale.ROOT, "%.1f px", px))
                            .findFirst()
                            .orElse("–"));
        }
        h.endTable();
    }

    private void nights(Sheet h) {
        h.heading("Its nights");
        h.table("evening", "kit", "kept", "light", "star size", "guiding", "lost to");
        for (TargetNight n : project.nights()) {
            h.row(
                    n.date().toString(),
                    n.kit(),
                    n.kept() + " of " + n.taken(),
                    hours(n.hoursKept()),
                    told(n.usualSizePx(), "%.1f px"),
                    told(n.usualGuidingArcsec(), "%.2f″"),
                    n.lost().isEmpty()
                            ? "–"
                            : String.join(
                                    ", ",
                                    byLoss(n.lost()).stream()
                                            .map(e -> cause(e.getKey()) + " " + hours(e.getValue()))
                                            .toList()));
        }
        h.endTable();
        h.paragraph("Star size is the width of the subs that were kept, in pixels of their kit, and guiding its RMS:"
                + " the medians.");
    }

    private void pictures(Sheet h) {
        Optional<Gathering.Night> first = project.of().baseline();
        Optional<Gathering.Night> last = project.of().latest().filter(n -> !n.equals(first.orElse(null)));
        List<Gathering.Night> shown = new ArrayList<>();
        first.ifPresent(shown::add);
        last.ifPresent(shown::add);
        shown.removeIf(n -> n.picture().filter(Files::isRegularFile).isEmpty());
        for (Gathering.Night n : shown) {
            h.beginWhole();
            h.heading(
                    shown.size() == 1
                            ? "The picture"
                            : n.equals(shown.get(0)) ? "The first picture" : "The last picture");
            h.picture(Sheet.read(n.picture().orElseThrow()), "the stack of " + n.date());
            h.paragraph(String.format(
                    Locale.ROOT,
                    "%s: that night's stack; %.1f h in all by then.",
                    n.date(),
                    project.of().hoursUntil(n)));
            h.endWhole();
        }
    }

    private void next(Sheet h) {
        h.beginWhole();
        h.heading("What is to be done");
        List<String> said = toBeDone();
        if (said.isEmpty()) {
            h.paragraph(
                    project.wanted().isEmpty()
                            ? "No end is set for it, and little was lost: hours wanted are typed under Wishes."
                            : "Nothing: all that was wanted is there, and little was lost.");
        } else {
            h.table();
            said.forEach(h::ticked);
            h.endTable();
        }
        h.endWhole();
    }

    /** What is left, the most first, and what took a share of the light that is worth a thought. */
    List<String> toBeDone() {
        List<String> said = new ArrayList<>();
        byLoss(project.of().left(project.wanted())).stream()
                .filter(e -> e.getValue() > 0)
                .forEach(e -> said.add(String.format(
                        Locale.ROOT,
                        "Take %.1f h more of %s: %.1f of %.1f h are there.",
                        e.getValue(),
                        e.getKey(),
                        project.of().kept().getOrDefault(e.getKey(), 0.0),
                        project.wanted().get(e.getKey()))));
        Map<String, Double> lost = new TreeMap<>();
        project.nights().forEach(n -> n.lost().forEach((cause, hours) -> lost.merge(cause, hours, Double::sum)));
        double taken = project.nights().stream()
                .mapToDouble(n -> n.hoursKept()
                        + n.lost().values().stream()
                                .mapToDouble(Double::doubleValue)
                                .sum())
                .sum();
        byLoss(lost).stream()
                .filter(e -> e.getValue() >= WORTH_TELLING * taken)
                .forEach(e -> said.add(String.format(
                        Locale.ROOT,
                        "Look into %s: it cost %.1f h, %.0f %% of all that was taken, most on %s.",
                        cause(e.getKey()),
                        e.getValue(),
                        100 * e.getValue() / taken,
                        project.nights().stream()
                                .max(Comparator.comparingDouble(n -> n.lost().getOrDefault(e.getKey(), 0.0)))
                                .orElseThrow()
                                .date())));
        return said;
    }

    private static List<Map.Entry<String, Double>> byLoss(Map<String, Double> hours) {
        return hours.entrySet().stream()
                .sorted(Map.Entry.<String, Double>comparingByValue()
                        .reversed()
                        .thenComparing(Map.Entry.comparingByKey()))
                .toList();
    }

    private static String cause(String word) {
        return word.isEmpty() ? "what was not told" : word;
    }

    private static String hours(double hours) {
        return String.format(Locale.ROOT, "%.1f h", hours);
    }

    private static String told(OptionalDouble value, String format) {
        return value.isPresent() ? String.format(Locale.ROOT, format, value.getAsDouble()) : "–";
    }
}
