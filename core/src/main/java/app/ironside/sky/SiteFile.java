package app.ironside.sky;

import app.ironside.BadInputException;
import app.ironside.JsonText;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** A site as an open JSON file; the horizon is a list of pairs of azimuth and altitude. */
public final class SiteFile {
    private static final String EXAMPLE = "a site as in examples/";

    private SiteFile() {}

    /** The file's own shape. Read by Jackson. */
    public record Entry(
            Optional<String> name,
            double latDeg,
            double lonDeg,
            double elevationM,
            String zone,
            double skyMagPerArcsec2,
            Optional<double[][]> horizon,
            Optional<Double> marginDeg,
            Optional<LightDome> dome,
            Optional<Double> seeingArcsec) {
        /**
         * The site that it tells of.
         *
         * @param file for messages
         */
        public Site site(String file) {
            double[][] points = horizon.filter(h -> h.length > 0).orElse(new double[][] {{0, 0}});
            for (double[] point : points) {
                if (point.length != 2) {
                    throw new BadInputException(
                            file, "a point of the horizon has " + point.length + " numbers", "[azimuth, altitude]");
                }
            }
            Horizon skyline = new Horizon(
                    Arrays.stream(points).map(p -> new Horizontal(p[0], p[1])).toList());
            return new Site(
                    name.orElse("unnamed"),
                    latDeg,
                    lonDeg,
                    elevationM,
                    zone(file),
                    skyMagPerArcsec2,
                    skyline,
                    marginDeg.orElse(0.0),
                    dome,
                    seeingArcsec);
        }

        private ZoneId zone(String file) {
            try {
                return ZoneId.of(zone);
            } catch (DateTimeException e) {
                throw new BadInputException(
                        file, "the time zone \"" + zone + "\" is not known", "a name like \"Europe/Rome\"", e);
            }
        }
    }

    /**
     * Reads a site.
     *
     * @param name of the file, for messages
     * @throws BadInputException naming what is wrong
     */
    public static Site parse(String text, String name) {
        Entry entry = JsonText.read(text, Entry.class, name, EXAMPLE);
        try {
            return entry.site(name);
        } catch (IllegalArgumentException e) {
            throw new BadInputException(name, e.getMessage(), EXAMPLE, e);
        }
    }

    /** The site as the tree that {@link #parse} reads. */
    public static ObjectNode tree(Site site) {
        List<Horizontal> points = site.horizon().points();
        return JsonText.tree(new Entry(
                Optional.of(site.name()),
                site.latDeg(),
                site.lonDeg(),
                site.elevationM(),
                site.zone().getId(),
                site.skyMagPerArcsec2(),
                Optional.of(points.stream()
                        .map(p -> new double[] {p.azimuthDeg(), p.altitudeDeg()})
                        .toArray(double[][]::new)),
                Optional.of(site.marginDeg()),
                site.dome(),
                site.seeingArcsec()));
    }
}
