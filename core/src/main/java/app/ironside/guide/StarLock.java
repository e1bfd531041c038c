package app.ironside.guide;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.NightClock;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import app.ironside.kit.GuiderSpec;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * Holds on to the guide star, or to many: takes guide exposures and tells where the star stands that is guided on. One that jumps to
 * another brightness is refused; one that is gone is looked for by the pattern of its neighbours.
 */
final class StarLock {
    /** Side of the part that is read out about a single star. */
    static final int WINDOW_PX = 48;

    /** Stars nearer to the edge are not chosen, and no lock position is laid there. */
    static final double EDGE_PX = 60;

    private static final double LEAST_SNR = 8;
    private static final int MOST_STARS = 12;
    private static final double FAINTEST_SHARE = 0.02;
    private static final double SHUNNED_PX = 4;

    /** A star this near to where it is expected is the one, however bright: clouds dim it. */
    private static final double SURELY_PX = 5;

    /** Further off, one that is brighter or fainter by more than this is another. */
    private static final double OTHER_BRIGHTNESS = 2.2;

    /** Brightness is followed, so that a cloud that comes slowly is no other star. */
    private static final double FOLLOWING = 0.1;

    /** A frame is searched whole after so many without the star. */
    private static final int WIDER_AFTER = 3;

    private static final double SAME_PLACE_PX = 2.5;

    /** Of the pattern so much must be found again. */
    private static final double PATTERN_SHARE = 0.4;

    /** Of many stars, those that stray from the others by more than this are left out; pixels, and spreads. */
    private static final double STRAY_PX = 0.3;

    private static final double STRAY_SPREADS = 3;

    /** From this signal-to-noise on it is the air that moves a star on the sensor, and not its own noise. */
    private static final double ENOUGH_SNR = 30;

    private final Camera camera;
    private final NightClock clock;
    private final StarSearch finder;
    private final GuiderSpec guider;
    private final Supplier<Duration> exposure;
    private final List<double[]> shunned = new ArrayList<>();

    /** The stars guided on, the first by choice; where each stands when the first is at its place. */
    private List<Mark> marks = List.of();

    private boolean many;
    private double x;
    private double y;

    /** Where it was seen before the last pulse. */
    private Optional<double[]> beforePulse = Optional.empty();

    private double snr;
    private int seen;
    private int lost;
    private Frame lastFrame;
    private StarField lastField;

    /** A star of the pattern, relative to the one that is guided on. */
    private static final class Mark {
        private final double dx;
        private final double dy;
        private double flux;

        Mark(double dx, double dy, double flux) {
            this.dx = dx;
            this.dy = dy;
            this.flux = flux;
        }

        boolean looksLike(Star s) {
            double ratio = s.fluxAdu() / flux;
            return ratio < OTHER_BRIGHTNESS && ratio > 1 / OTHER_BRIGHTNESS;
        }

        void follow(Star s) {
            flux += FOLLOWING * (s.fluxAdu() - flux);
        }
    }

    StarLock(Camera camera, NightClock clock, StarSearch finder, GuiderSpec guider, Supplier<Duration> exposure) {
        this.camera = camera;
        this.clock = clock;
        this.finder = finder;
        this.guider = guider;
        this.exposure = exposure;
    }

    /** Whether the common motion of many stars is taken, or that of one. */
    void many(boolean wanted) {
        many = wanted;
    }

    /**
     * Takes a whole guide frame and the best star in it.
     *
     * @param near if a person chose one, about where; else the best by itself
     */
    Star acquire(Optional<double[]> near) throws InterruptedException {
        StarField field = withoutShunned(look(Optional.empty()));
        Star star = near.flatMap(p -> nearest(field, p))
                .or(() -> Guider.choose(field))
                .orElseThrow(() -> new DeviceException(
                        "guide camera",
                        field.stars().size() + " stars in view, none fit to guide on",
                        "Look for cloud, focus the guide scope, or expose longer than "
                                + exposure.get().toMillis() / 1000.0 + " s."));
        List<Mark> chosen = new ArrayList<>();
        chosen.add(new Mark(0, 0, star.fluxAdu()));
        field.stars().stream()
                .filter(s -> s != star && !s.saturated() && s.snr() >= LEAST_SNR)
                .filter(s -> s.fluxAdu() >= FAINTEST_SHARE * star.fluxAdu())
                .sorted(Comparator.comparingDouble(Star::fluxAdu).reversed())
                .limit(MOST_STARS - 1L)
                .forEach(s -> chosen.add(new Mark(s.x() - star.x(), s.y() - star.y(), s.fluxAdu())));
        marks = List.copyOf(chosen);
        x = star.x();
        y = star.y();
        snr = star.snr();
        seen = marks.size();
        beforePulse = Optional.empty();
        lost = 0;
        return star;
    }

    private static Optional<Star> nearest(StarField field, double[] place) {
        return field.stars().stream()
                .filter(s -> !s.saturated() && s.snr() >= LEAST_SNR)
                .filter(s -> Math.hypot(s.x() - place[0], s.y() - place[1]) < WINDOW_PX)
                .min(Comparator.comparingDouble(s -> Math.hypot(s.x() - place[0], s.y() - place[1])));
    }

    private StarField look(Optional<Camera.Region> part) throws InterruptedException {
        Camera.Exposure whole = Camera.Exposure.light(exposure.get());
        lastFrame = camera.expose(clock, part.map(whole::of).orElse(whole));
        lastField = finder.find(lastFrame);
        return lastField;
    }

    private StarField withoutShunned(StarField field) {
        return shunned.isEmpty()
                ? field
                : new StarField(
                        field.width(),
                        field.height(),
                        field.stars().stream()
                                .filter(s -> !isShunned(s.x(), s.y()))
                                .toList(),
                        field.backgroundAdu(),
                        field.noiseAdu());
    }

    private boolean isShunned(double atX, double atY) {
        return shunned.stream().anyMatch(p -> Math.hypot(atX - p[0], atY - p[1]) < SHUNNED_PX);
    }

    /** At this place no star is to be taken again: a hot pixel stays. */
    void shun(double atX, double atY) {
        shunned.add(new double[] {atX, atY});
    }

    /** Exposes and finds the star; false if it is not there. */
    boolean locate() throws InterruptedException {
        boolean found;
        if (many || lost >= WIDER_AFTER) {
            StarField field = withoutShunned(look(Optional.empty()));
            found = lost < WIDER_AFTER ? foundTogether(field) : foundByPattern(field);
        } else {
            found = foundInWindow();
        }
        lost = found ? 0 : lost + 1;
        if (!found) {
            backToWhereItWas();
        }
        return found;
    }

    private boolean foundInWindow() throws InterruptedException {
        int left = (int) Math.max(0, Math.min(guider.widthPx() - WINDOW_PX, x - WINDOW_PX / 2.0));
        int bottom = (int) Math.max(0, Math.min(guider.heightPx() - WINDOW_PX, y - WINDOW_PX / 2.0));
        StarField field = look(Optional.of(new Camera.Region(left, bottom, WINDOW_PX, WINDOW_PX)));
        Mark mark = marks.get(0);
        Optional<Star> star = field.stars().stream()
                .filter(s -> s.snr() >= LEAST_SNR)
                .filter(s -> Math.hypot(s.x() + left - x, s.y() + bottom - y) < SURELY_PX || mark.looksLike(s))
                .min(Comparator.comparingDouble(s -> Math.hypot(s.x() + left - x, s.y() + bottom - y)));
        star.ifPresent(s -> {
            mark.follow(s);
            x = s.x() + left;
            y = s.y() + bottom;
            snr = s.snr();
            seen = 1;
        });
        return star.isPresent();
    }

    /** The common motion of all that are seen, each by its light; what strays from the others is left out. */
    private boolean foundTogether(StarField field) {
        List<double[]> moved = new ArrayList<>();
        for (Mark mark : marks) {
            double ex = x + mark.dx;
            double ey = y + mark.dy;
            field.stars().stream()
                    .filter(s -> s.snr() >= LEAST_SNR)
                    .filter(s -> Math.hypot(s.x() - ex, s.y() - ey) < WINDOW_PX / 2.0)
                    .filter(s -> Math.hypot(s.x() - ex, s.y() - ey) < SURELY_PX || mark.looksLike(s))
                    .min(Comparator.comparingDouble(s -> Math.hypot(s.x() - ex, s.y() - ey)))
                    .ifPresent(s -> {
                        mark.follow(s);
                        moved.add(new double[] {s.x() - ex, s.y() - ey, s.snr() * s.snr()});
                    });
        }
        if (moved.isEmpty()) {
            return false;
        }
        double mx = Statistics.median(moved.stream().mapToDouble(m -> m[0]).toArray());
        double my = Statistics.median(moved.stream().mapToDouble(m -> m[1]).toArray());
        double spread = Statistics.median(moved.stream()
                .mapToDouble(m -> Math.hypot(m[0] - mx, m[1] - my))
                .toArray());
        double within = Math.max(STRAY_PX, STRAY_SPREADS * spread);
        double w = 0;
        double sx = 0;
        double sy = 0;
        int used = 0;
        for (double[] m : moved) {
            if (Math.hypot(m[0] - mx, m[1] - my) <= within) {
                // The air moves a bright star as it moves a faint one: light beyond some counts no more.
                double weight = 1 / (1 + ENOUGH_SNR * ENOUGH_SNR / m[2]);
                w += weight;
                sx += weight * m[0];
                sy += weight * m[1];
                used++;
            }
        }
        x += sx / w;
        y += sy / w;
        snr = Math.sqrt(moved.stream().mapToDouble(m -> m[2]).sum());
        seen = used;
        return true;
    }

    /** Where the pattern of stars lies now, over the whole frame. */
    private boolean foundByPattern(StarField field) {
        Mark first = marks.get(0);
        double best = 0;
        double[] place = null;
        Star taken = null;
        for (Star candidate : field.stars()) {
            if (candidate.snr() < LEAST_SNR || marks.size() < 3 && !first.looksLike(candidate)) {
                continue;
            }
            int again = 0;
            for (Mark mark : marks) {
                double ex = candidate.x() + mark.dx;
                double ey = candidate.y() + mark.dy;
                again += isThere(field.stars(), ex, ey) ? 1 : 0;
            }
            // Of like patterns the nearer.
            double score = again - 1e-4 * Math.hypot(candidate.x() - x, candidate.y() - y);
            if (again >= Math.max(1, PATTERN_SHARE * marks.size()) && score > best) {
                best = score;
                place = new double[] {candidate.x(), candidate.y()};
                taken = candidate;
            }
        }
        if (place == null) {
            return false;
        }
        x = place[0];
        y = place[1];
        snr = taken.snr();
        first.flux = taken.fluxAdu();
        return true;
    }

    private static boolean isThere(List<Star> stars, double x, double y) {
        for (Star star : stars) {
            double dx = star.x() - x;
            double dy = star.y() - y;
            if (dx * dx + dy * dy < SAME_PLACE_PX * SAME_PLACE_PX) {
                return true;
            }
        }
        return false;
    }

    /** Where the star will be looked for: with a long guide telescope one pulse after a dither moves it half a window. */
    void expectMoved(double dx, double dy) {
        beforePulse = Optional.of(new double[] {x, y});
        x += dx;
        y += dy;
    }

    /** Where a pulse did not move the star, in slack gears, it is looked for where it was. */
    private void backToWhereItWas() {
        beforePulse.ifPresent(place -> {
            x = place[0];
            y = place[1];
        });
        beforePulse = Optional.empty();
    }

    double x() {
        return x;
    }

    double y() {
        return y;
    }

    /** Of the star, or of all that were seen together. */
    double snr() {
        return snr;
    }

    /** Stars whose motion was taken in the last exposure. */
    int seen() {
        return seen;
    }

    int lostInARow() {
        return lost;
    }

    Optional<Frame> lastFrame() {
        return Optional.ofNullable(lastFrame);
    }

    /** What was found in the last frame. */
    Optional<StarField> lastField() {
        return Optional.ofNullable(lastField);
    }
}
