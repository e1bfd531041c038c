package app.ironside.stack;

import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.solve.Wcs;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/** What a stack's header says: what all subs say, and what is true of their sum. */
final class StackHeader {
    private StackHeader() {}

    /** What all subs say, and what is true of their sum; the cards of one sub do not stand for the stack. */
    static Header of(
            Stacker.Grid grid, Sub reference, List<Placed> placed, Rejection rejection, Optional<Drizzle> drizzle) {
        List<Header> each = placed.stream().map(p -> p.sub().source().header()).toList();
        double seconds =
                each.stream().mapToDouble(h -> h.exposureSeconds().orElse(0)).sum();
        Header own = reference.source().header();
        Header header = Header.shared(each)
                .without(Mosaic::isKeyword)
                .without(Wcs::isWcsKeyword)
                .with("NCOMBINE", placed.size())
                .with("EXPTIME", seconds)
                .with("TOTALEXP", seconds)
                .with("IMAGETYP", "Stack")
                .with(
                        "PEDESTAL",
                        own.number("PEDESTAL").orElse(0)
                                + reference.calibrator().pedestalAdu());
        if (grid.field() == reference.look().field()) {
            header = header.withAll(
                    own.without(keyword -> !Wcs.isWcsKeyword(keyword)).values());
        }
        // A mean of N subs counts N times the electrons to a unit.
        OptionalDouble gain = header.number("EGAIN");
        if (gain.isPresent()) {
            header = header.with("EGAIN", gain.getAsDouble() * placed.size());
        }
        header = header.withAll(span(each).values());
        for (String step : reference.calibrator().steps()) {
            header = header.withHistory(step);
        }
        header = header.withHistory("aligned on " + Path.of(grid.name()).getFileName() + ", "
                + drizzle.map(Drizzle::words).orElse("Lanczos-3"));
        double x = (grid.field().width() + 1) / 2.0;
        double y = (grid.field().height() + 1) / 2.0;
        double heaviest = placed.stream().mapToDouble(Placed::weight).max().orElse(1);
        for (Placed p : placed) {
            header = header.withHistory(String.format(
                    java.util.Locale.ROOT,
                    "%s middle dx %.2f dy %.2f turn %.3f%s light %.3f level %+.1f weight %.3f",
                    p.sub().source().file().getFileName(),
                    p.transform().x(x, y) - x,
                    p.transform().y(x, y) - y,
                    p.transform().turnDeg(),
                    p.transform().bend().isPresent() ? " bent" : "",
                    p.light(),
                    p.levellings().get(0).levelAdu(),
                    p.weight() / heaviest));
        }
        header = header.withHistory("combined by weighted mean, rejection " + rejection.word());
        return drizzle.isPresent() ? drizzle.get().finer(header) : header;
    }

    /** From the first start to the last end (FITS standard 4.0, section 9.5), where every sub tells both. */
    private static Header span(List<Header> each) {
        Header times = Header.EMPTY;
        if (each.stream()
                .allMatch(h -> h.start().isPresent() && h.exposureSeconds().isPresent())) {
            times = times.with(
                            "DATE-OBS",
                            stamp(each.stream()
                                    .map(h -> h.start().orElseThrow())
                                    .min(Comparator.naturalOrder())))
                    .with(
                            "DATE-END",
                            stamp(each.stream()
                                    .map(h -> h.start()
                                            .orElseThrow()
                                            .plusMillis(Math.round(
                                                    1000 * h.exposureSeconds().orElseThrow())))
                                    .max(Comparator.naturalOrder())));
        }
        return times;
    }

    private static String stamp(Optional<Instant> time) {
        return time.orElseThrow().toString().replace("Z", "");
    }
}
