package app.ironside.colour;

import app.ironside.BadInputException;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.solve.FieldMatcher;
import app.ironside.solve.PlaneTransform;
import app.ironside.solve.Registration;
import app.ironside.stack.Resampling;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * Makes a colour picture of stacks. Each is brought onto the first's grid by its stars; scaled so that the middle one of the stars in common
 * is as bright in each channel (the average star is white); and lifted so that the sky is neutral. Borders that not all reach are left out of
 * every measure.
 */
public final class Combination {
    /** Fluxes of fainter stars are too uncertain to tell a scale by. */
    private static final double SURE_SNR = 15;

    private static final int ENOUGH_STARS = 5;
    private static final int SAMPLES = 400_000;

    /** A luminance gives its detail where there is light; at the level of the sky's noise a ratio means nothing. */
    private static final double FLOOR_SIGMAS = 3;

    private final StarSearch finder;

    public Combination(StarSearch finder) {
        this.finder = finder;
    }

    /** A stack with its name in messages. */
    public record Input(String file, Frame frame) {}

    /**
     * A further filter.
     *
     * @param red share of it in the red channel, 0 to 1
     */
    public record Added(Input input, double red, double green, double blue) {}

    /** One channel on the common grid. */
    private record Laid(String name, Input input, Frame frame, StarField stars) {}

    /**
     * Combines.
     *
     * @throws BadInputException if one shows another field, or holds no values; naming it
     */
    public ColourPicture combine(Input red, Input green, Input blue, Optional<Input> luminance, List<Added> added) {
        Laid first = laid("red", red, Optional.empty());
        List<Laid> all = new ArrayList<>(
                List.of(first, laid("green", green, Optional.of(first)), laid("blue", blue, Optional.of(first))));
        luminance.ifPresent(l -> all.add(laid("luminance", l, Optional.of(first))));
        for (int i = 0; i < added.size(); i++) {
            all.add(laid("added " + (i + 1), added.get(i).input(), Optional.of(first)));
        }
        boolean[] everywhere = everywhere(all);
        Laid reference = all.get(1);
        double sky = sky(reference, everywhere);
        List<ColourPicture.Channel> channels = new ArrayList<>();
        List<float[]> levelled = new ArrayList<>();
        for (Laid one : all) {
            Scale scale = one == reference ? new Scale(1, 0) : scale(reference, one, everywhere);
            double offset = sky - scale.factor() * sky(one, everywhere);
            levelled.add(levelled(one.frame(), scale.factor(), offset));
            channels.add(
                    new ColourPicture.Channel(one.name(), one.input().file(), scale.factor(), offset, scale.stars()));
        }
        List<float[]> colours = new ArrayList<>(levelled.subList(0, 3));
        int next = 3;
        Optional<float[]> light = luminance.isPresent() ? Optional.of(levelled.get(next++)) : Optional.empty();
        for (Added more : added) {
            float[] values = levelled.get(next++);
            double[] shares = {more.red(), more.green(), more.blue()};
            for (int c = 0; c < 3; c++) {
                colours.set(c, blended(colours.get(c), values, shares[c]));
            }
        }
        light.ifPresent(l -> underLuminance(colours, l, sky, FLOOR_SIGMAS * noise(l, everywhere)));
        Header header = header(all, channels);
        int width = first.frame().width();
        int height = first.frame().height();
        return new ColourPicture(
                new Frame(width, height, colours.get(0), header),
                new Frame(width, height, colours.get(1), header),
                new Frame(width, height, colours.get(2), header),
                channels,
                reference.name());
    }

    private Laid laid(String name, Input input, Optional<Laid> onto) {
        StarField stars = finder.find(input.frame());
        if (onto.isEmpty()) {
            return new Laid(name, input, input.frame(), stars);
        }
        StarField grid = onto.get().stars();
        boolean sameSize = grid.width() == stars.width() && grid.height() == stars.height();
        Optional<Registration> lies = Registration.ofBentFields(grid, stars);
        if (lies.isEmpty()) {
            if (sameSize && Math.min(grid.stars().size(), stars.stars().size()) < ENOUGH_STARS) {
                return new Laid(name, input, input.frame(), stars); // nothing speaks against one grid
            }
            throw new BadInputException(
                    input.file(), "shows other stars than " + onto.get().input().file(), "stacks of one field");
        }
        PlaneTransform t = lies.get().transform();
        if (sameSize && isOneGrid(t, stars)) {
            return new Laid(name, input, input.frame(), stars);
        }
        Frame moved = Resampling.onto(input.frame(), t, grid.width(), grid.height());
        return new Laid(name, input, moved, finder.find(moved));
    }

    /** Within a tenth of a pixel from corner to corner: to resample would only smooth. */
    private static boolean isOneGrid(PlaneTransform t, StarField field) {
        double worst = 0;
        for (int x : new int[] {1, field.width()}) {
            for (int y : new int[] {1, field.height()}) {
                worst = Math.max(worst, Math.hypot(t.x(x, y) - x, t.y(x, y) - y));
            }
        }
        return worst < 0.1;
    }

    private static boolean[] everywhere(List<Laid> all) {
        boolean[] everywhere = new boolean[all.get(0).frame().pixels().length];
        Arrays.fill(everywhere, true);
        int count = 0;
        for (int i = 0; i < everywhere.length; i++) {
            for (Laid one : all) {
                everywhere[i] &= Float.isFinite(one.frame().pixels()[i]);
            }
            count += everywhere[i] ? 1 : 0;
        }
        if (count == 0) {
            throw new BadInputException("the stacks", "have no pixel in common", "stacks of one field");
        }
        return everywhere;
    }

    private static float[] common(float[] values, boolean[] everywhere) {
        int stride = Math.max(1, values.length / SAMPLES) | 1;
        float[] taken = new float[values.length / stride + 1];
        int n = 0;
        for (int i = 0; i < values.length; i += stride) {
            if (everywhere[i]) {
                taken[n++] = values[i];
            }
        }
        return n == 0 ? new float[] {0} : Arrays.copyOf(taken, n);
    }

    /** The level of the empty sky: below the median where nebula fills the field. */
    private static double sky(Laid one, boolean[] everywhere) {
        float[] sample = common(one.frame().pixels(), everywhere);
        Arrays.sort(sample);
        double median = Statistics.median(sample);
        double lower = sample[(int) (0.15865 * (sample.length - 1))];
        double noise = one.stars().noiseAdu();
        // Of empty sky the lower sixth lies one deviation below the median; where it lies deeper, the median is not
        // sky.
        return median - lower > 2 * noise && noise > 0 ? lower + noise : median;
    }

    private static double noise(float[] values, boolean[] everywhere) {
        return Statistics.robust(common(values, everywhere)).sigma();
    }

    private record Scale(double factor, int stars) {}

    private static Scale scale(Laid reference, Laid one, boolean[] everywhere) {
        List<FieldMatcher.Pair> pairs =
                FieldMatcher.match(reference.stars(), one.stars()).orElse(List.of());
        double[] ratios = pairs.stream()
                .filter(p -> sure(p.a())
                        && sure(p.b())
                        && inside(p.a(), reference.frame().width(), everywhere))
                .mapToDouble(p -> p.a().fluxAdu() / p.b().fluxAdu())
                .filter(r -> r > 0 && Double.isFinite(r))
                .toArray();
        if (ratios.length >= ENOUGH_STARS) {
            return new Scale(Statistics.median(ratios), ratios.length);
        }
        double noise = noise(one.frame().pixels(), everywhere);
        return new Scale(noise > 0 ? noise(reference.frame().pixels(), everywhere) / noise : 1, 0);
    }

    private static boolean sure(Star star) {
        return !star.saturated() && star.snr() >= SURE_SNR;
    }

    private static boolean inside(Star star, int width, boolean[] everywhere) {
        int at = (int) (Math.round(star.y()) - 1) * width + (int) Math.round(star.x()) - 1;
        return at >= 0 && at < everywhere.length && everywhere[at];
    }

    private static float[] levelled(Frame frame, double scale, double offset) {
        float[] out = new float[frame.pixels().length];
        for (int i = 0; i < out.length; i++) {
            out[i] = (float) (frame.pixels()[i] * scale + offset);
        }
        return out;
    }

    private static float[] blended(float[] channel, float[] added, double share) {
        if (share == 0) {
            return channel;
        }
        float[] out = new float[channel.length];
        for (int i = 0; i < out.length; i++) {
            out[i] = (float) ((1 - share) * channel[i] + share * added[i]);
        }
        return out;
    }

    /** Colour as it is, brightness from the luminance: each channel above the sky is multiplied by what the luminance has more. */
    private static void underLuminance(List<float[]> colours, float[] luminance, double sky, double floor) {
        float[] red = colours.get(0).clone();
        float[] green = colours.get(1).clone();
        float[] blue = colours.get(2).clone();
        for (int i = 0; i < luminance.length; i++) {
            double grey = (red[i] + green[i] + blue[i]) / 3.0 - sky;
            double light = luminance[i] - sky;
            // Far above the noise the ratio; in the noise the luminance itself, without colour.
            double sure = Math.max(0, grey) / (Math.max(0, grey) + Math.max(1e-9, floor));
            double ratio = light / Math.max(grey, Math.max(1e-9, floor));
            red[i] = (float) (sky + sure * (red[i] - sky) * ratio + (1 - sure) * light);
            green[i] = (float) (sky + sure * (green[i] - sky) * ratio + (1 - sure) * light);
            blue[i] = (float) (sky + sure * (blue[i] - sky) * ratio + (1 - sure) * light);
        }
        colours.set(0, red);
        colours.set(1, green);
        colours.set(2, blue);
    }

    private static Header header(List<Laid> all, List<ColourPicture.Channel> channels) {
        Header header = Header.shared(all.stream().map(l -> l.frame().header()).toList());
        Header place = all.get(0).frame().header().without(k -> !app.ironside.solve.Wcs.isWcsKeyword(k));
        header = header.withAll(place).with("IMAGETYP", "Colour picture").with("FILTER", null);
        for (ColourPicture.Channel c : channels) {
            header = header.withHistory(String.format(
                    java.util.Locale.ROOT,
                    "%s from %s, times %.5g, plus %.5g",
                    c.name(),
                    java.nio.file.Path.of(c.file()).getFileName(),
                    c.scale(),
                    c.offset()));
        }
        return header;
    }
}
