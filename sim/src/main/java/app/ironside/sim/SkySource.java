package app.ironside.sim;

import app.ironside.sky.CatalogueStar;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.StarSource;
import app.ironside.sky.Vectors;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What shines: the catalogue's stars, and fainter ones invented for each patch of sky, always the same for the same patch.
 */
public final class SkySource implements StarSource {
    /** The name of stars that are in no catalogue. */
    public static final String INVENTED = "invented";

    private static final double CELL_DEG = 0.5;
    private static final double INVENTED_FROM = 8.7;
    private static final double COUNTS_TO_DEEPEST = countsPerSquareDegree(17);
    private static final long STAR_SEED = 20_261_114;

    /** Some 100 MB. */
    private static final int MOST_STARS_KEPT = 3_000_000;

    private final StarCatalogue catalogue;
    private final DeepSkyCatalogue objects;
    private final Map<PieceKey, Piece> pieces = new LinkedHashMap<>(16, 0.75f, true);

    public SkySource(StarCatalogue catalogue, DeepSkyCatalogue objects) {
        this.catalogue = catalogue;
        this.objects = objects;
    }

    /**
     * Stars brighter than a magnitude per square degree at middle galactic latitude, after the star counts of Bahcall and Soneira
     * (1980, ApJS 44, 73, from memory, ±20 %): 8 to V 10, 40 to 12, 400 to 14, 1,500 to 16.
     */
    public static double countsPerSquareDegree(double magnitude) {
        double slope = magnitude < 14 ? 0.42 : 0.34;
        double at14 = 0.9 + 0.42 * 4;
        double log = magnitude < 14 ? 0.9 + slope * (magnitude - 10) : at14 + slope * (magnitude - 14);
        return Math.pow(10, log);
    }

    /** Stars of a circle down to a magnitude, catalogue and invented. */
    @Override
    public List<CatalogueStar> stars(Equatorial centre, double radiusDeg, double faintest) {
        List<CatalogueStar> stars = new ArrayList<>();
        for (CatalogueStar star : catalogue.within(centre, radiusDeg)) {
            if (star.magnitude() <= faintest) {
                stars.add(star);
            }
        }
        int first = (int) Math.floor((centre.decDeg() - radiusDeg + 90) / CELL_DEG);
        int last = (int) Math.floor((centre.decDeg() + radiusDeg + 90) / CELL_DEG);
        for (int band = Math.max(0, first); band <= Math.min((int) (180 / CELL_DEG) - 1, last); band++) {
            addBand(band, centre, radiusDeg, faintest, stars);
        }
        return stars;
    }

    /** Invented stars of a strip about the pole. */
    public List<CatalogueStar> strip(double fromDecDeg, double toDecDeg, double faintest) {
        List<CatalogueStar> stars = new ArrayList<>();
        double middle = (fromDecDeg + toDecDeg) / 2;
        for (int band = (int) Math.floor((fromDecDeg + 90) / CELL_DEG); band * CELL_DEG - 90 < toDecDeg; band++) {
            addBand(band, new Equatorial(0, middle), 180, faintest, stars);
        }
        return stars;
    }

    private static void addBand(
            int band, Equatorial centre, double radiusDeg, double faintest, List<CatalogueStar> stars) {
        double south = band * CELL_DEG - 90;
        double cosine = Math.max(Math.cos(Math.toRadians(south)), Math.cos(Math.toRadians(south + CELL_DEG)));
        int cells = (int) Math.max(1, Math.round(360 * cosine / CELL_DEG));
        double width = 360.0 / cells;
        double lowest = Math.sin(Math.toRadians(south));
        double height = Math.sin(Math.toRadians(south + CELL_DEG)) - lowest;
        double area = width * (180 / Math.PI) * height;
        double mostShare = countsPerSquareDegree(faintest) / COUNTS_TO_DEEPEST;
        double[] toward = Vectors.of(centre.raDeg(), centre.decDeg());
        // A little less than asked for: what lies on the edge is looked at closely.
        double nearly = Math.cos(Math.toRadians(Math.min(180, radiusDeg))) - 1e-9;
        double reach = (radiusDeg + 2 * CELL_DEG) / Math.max(0.01, cosine);
        for (int cell = 0; cell < cells; cell++) {
            double away = Math.abs(Math.IEEEremainder((cell + 0.5) * width - centre.raDeg(), 360));
            if (reach < 180 && away > reach) {
                continue;
            }
            Noise noise = Noise.of(STAR_SEED, band, cell);
            // The number down to a fixed depth, so that the same stars appear whatever depth is asked for.
            int deepest = (int) noise.poisson((float) (COUNTS_TO_DEEPEST * area));
            for (int i = 0; i < deepest; i++) {
                double ra = (cell + noise.uniform()) * width;
                double sine = lowest + noise.uniform() * height;
                double share = noise.uniform();
                double colour = 0.3 + 1.1 * noise.uniform();
                if (share > mostShare || !mayBeNear(ra, sine, toward, nearly)) {
                    continue;
                }
                double magnitude = magnitudeOf(share);
                if (magnitude < INVENTED_FROM) {
                    continue;
                }
                Equatorial position = new Equatorial(ra, Math.toDegrees(Math.asin(sine)));
                if (position.separationDeg(centre) <= radiusDeg) {
                    stars.add(new CatalogueStar(INVENTED, position, magnitude, colour));
                }
            }
        }
    }

    private static boolean mayBeNear(double raDeg, double sineOfDec, double[] toward, double leastCosine) {
        double ra = Math.toRadians(raDeg);
        double level = Math.sqrt(1 - sineOfDec * sineOfDec);
        return level * (Math.cos(ra) * toward[0] + Math.sin(ra) * toward[1]) + sineOfDec * toward[2] >= leastCosine;
    }

    /** The magnitude down to which a share of all stars to 17 is brighter: the inverse of the counts. */
    private static double magnitudeOf(double share) {
        double log = Math.log10(Math.max(1e-9, share) * COUNTS_TO_DEEPEST);
        double at14 = 0.9 + 0.42 * 4;
        return log < at14 ? 10 + (log - 0.9) / 0.42 : 14 + (log - at14) / 0.34;
    }

    /**
     * A circle of the sky, made ready for a camera; its stars are brightest first.
     *
     * @param directions of the stars, unit vectors one after the other
     * @param light of the stars against one of magnitude 0
     * @param colourBv B−V, magnitudes
     */
    @SuppressWarnings("ArrayRecordComponent") // large, shared, and never compared
    record Piece(List<DeepSkyObject> galaxies, double[] directions, float[] light, float[] colourBv) {
        static final Piece NOTHING = new Piece(List.of(), new double[0], new float[0], new float[0]);

        static Piece of(List<CatalogueStar> stars, List<DeepSkyObject> galaxies) {
            int n = stars.size();
            Piece piece = new Piece(galaxies, new double[3 * n], new float[n], new float[n]);
            // Magnitude and index in one number: the bits of positive floats are in the order of their values.
            long[] order = new long[n];
            for (int i = 0; i < n; i++) {
                float magnitude = (float) (stars.get(i).magnitude() + 10);
                order[i] = ((long) Float.floatToIntBits(magnitude) << 32) + i;
            }
            Arrays.parallelSort(order);
            for (int i = 0; i < n; i++) {
                CatalogueStar star = stars.get((int) order[i]);
                double[] v = Vectors.of(star.position().raDeg(), star.position().decDeg());
                System.arraycopy(v, 0, piece.directions, 3 * i, 3);
                piece.light[i] = (float) Math.pow(10, -0.4 * star.magnitude());
                piece.colourBv[i] = (float) star.colourBv();
            }
            return piece;
        }

        int size() {
            return light.length;
        }
    }

    private record PieceKey(Equatorial centre, double radiusDeg, double faintest) {}

    /** A circle of the sky; those that were asked for last are kept, as all nights of a season look at the same ones. */
    Piece piece(Equatorial centre, double radiusDeg, double faintest) {
        PieceKey key = new PieceKey(centre, radiusDeg, faintest);
        synchronized (pieces) {
            Piece known = pieces.get(key);
            if (known != null) {
                return known;
            }
        }
        List<CatalogueStar> stars = stars(centre, radiusDeg, faintest);
        Piece made = Piece.of(stars, galaxies(centre, radiusDeg));
        synchronized (pieces) {
            pieces.put(key, made);
            Iterator<Piece> oldest = pieces.values().iterator();
            int kept = pieces.values().stream().mapToInt(Piece::size).sum();
            while (kept > MOST_STARS_KEPT && pieces.size() > 1) {
                kept -= oldest.next().size();
                oldest.remove();
            }
        }
        return made;
    }

    /** Galaxies with a magnitude and a size that reach into a circle. */
    List<DeepSkyObject> galaxies(Equatorial centre, double radiusDeg) {
        return objects.objects().stream()
                .filter(o -> o.magnitude().isPresent() && o.longAxisArcmin() > 0.5)
                .filter(o -> isGalaxy(o.kind()))
                .filter(o -> o.position().separationDeg(centre) < radiusDeg + o.longAxisArcmin() / 60)
                .toList();
    }

    private static boolean isGalaxy(DeepSkyObject.Kind kind) {
        return switch (kind) {
            case GALAXY, SPIRAL, LENTICULAR, DWARF_SPHEROIDAL, IRREGULAR, ELLIPTICAL -> true;
            default -> false;
        };
    }
}
