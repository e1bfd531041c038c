package app.ironside.solve;

import app.ironside.Check;
import app.ironside.image.Header;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.TangentPlane;
import java.util.Optional;

/**
 * World coordinates of a frame: the gnomonic projection (TAN) with a CD matrix in degrees per pixel.
 *
 * @param reference sky place of the reference pixel
 * @param crpixX FITS pixel of the reference
 * @see "Calabretta and Greisen 2002, A&A 395, 1077 (FITS WCS paper II)"
 */
public record Wcs(
        Equatorial reference,
        double crpixX,
        double crpixY,
        double cd11,
        double cd12,
        double cd21,
        double cd22,
        Optional<Sip> distortion) {
    /** Without distortion. */
    public Wcs(Equatorial reference, double crpixX, double crpixY, double cd11, double cd12, double cd21, double cd22) {
        this(reference, crpixX, crpixY, cd11, cd12, cd21, cd22, Optional.empty());
    }

    public Wcs {
        Check.positive("determinant of CD", Math.abs(cd11 * cd22 - cd12 * cd21));
    }

    /** Sky place of a FITS pixel. */
    public Equatorial toSky(double x, double y) {
        double dx = x - crpixX;
        double dy = y - crpixY;
        if (distortion.isPresent()) {
            double[] shift = distortion.get().shift(dx, dy);
            dx += shift[0];
            dy += shift[1];
        }
        return new TangentPlane(reference).unproject(cd11 * dx + cd12 * dy, cd21 * dx + cd22 * dy);
    }

    /** FITS pixel of a sky place; empty if it is 90° or more away. */
    public Optional<double[]> toPixel(Equatorial sky) {
        return new TangentPlane(reference).project(sky).map(p -> {
            double determinant = cd11 * cd22 - cd12 * cd21;
            double u = (cd22 * p.xiDeg() - cd12 * p.etaDeg()) / determinant;
            double v = (cd11 * p.etaDeg() - cd21 * p.xiDeg()) / determinant;
            double[] back = distortion.map(d -> d.undo(u, v)).orElse(new double[] {u, v});
            return new double[] {crpixX + back[0], crpixY + back[1]};
        });
    }

    /** Geometric mean of the two scales, arcseconds per pixel. */
    public double scaleArcsecPerPixel() {
        return 3600 * Math.sqrt(Math.abs(cd11 * cd22 - cd12 * cd21));
    }

    /** Position angle of the +y axis, east of north, −180 to 180°. */
    public double rotationDeg() {
        return Math.toDegrees(Math.atan2(cd12, cd22));
    }

    /** Whether the picture is a mirror image of the sky as seen with x to the right and y up: the determinant is positive. */
    public boolean mirrored() {
        return cd11 * cd22 - cd12 * cd21 > 0;
    }

    /** The FITS keywords of this WCS. */
    public Header toHeader() {
        String suffix = distortion.isPresent() ? "-SIP" : "";
        Header cards = Header.EMPTY
                .with("WCSAXES", 2L)
                .with("CTYPE1", "RA---TAN" + suffix)
                .with("CTYPE2", "DEC--TAN" + suffix)
                .with("CUNIT1", "deg")
                .with("CUNIT2", "deg")
                .with("CRVAL1", reference.raDeg())
                .with("CRVAL2", reference.decDeg())
                .with("CRPIX1", crpixX)
                .with("CRPIX2", crpixY)
                .with("CD1_1", cd11)
                .with("CD1_2", cd12)
                .with("CD2_1", cd21)
                .with("CD2_2", cd22)
                .with("RADESYS", "ICRS");
        return distortion.map(d -> cards.withAll(d.toHeader().values())).orElse(cards);
    }

    /** Largest shift by distortion at the corners of a frame of this size, pixels; 0 without distortion. */
    public double largestDistortionPx(int width, int height) {
        double worst = 0;
        for (int corner = 0; corner < 4 && distortion.isPresent(); corner++) {
            double[] s =
                    distortion.get().shift((corner % 2 == 0 ? 1 : width) - crpixX, (corner < 2 ? 1 : height) - crpixY);
            worst = Math.max(worst, Math.hypot(s[0], s[1]));
        }
        return worst;
    }

    /** Keywords of any WCS that a solved frame's own replace, so that no part of an older one is left in its header. */
    public static boolean isWcsKeyword(String keyword) {
        return keyword.matches(
                "WCSAXES|C(TYPE|UNIT|RVAL|RPIX|DELT|ROTA)[12]|(CD|PC|PV)[12]_\\d+|RADESYS|EQUINOX|LONPOLE|LATPOLE|[AB]P?_(ORDER|\\d_\\d)|[AB]P?_DMAX");
    }

    /** Reads the WCS of a header, CD matrix or CDELT with CROTA2 or PC; empty if there is none or it is not a TAN one. */
    public static Optional<Wcs> from(Header header) {
        boolean tangent = header.text("CTYPE1")
                        .filter(t -> t.startsWith("RA---TAN"))
                        .isPresent()
                && header.text("CTYPE2").filter(t -> t.startsWith("DEC--TAN")).isPresent();
        if (!tangent
                || header.number("CRVAL1").isEmpty()
                || header.number("CRVAL2").isEmpty()
                || header.number("CRPIX1").isEmpty()
                || header.number("CRPIX2").isEmpty()) {
            return Optional.empty();
        }
        double[] cd = matrix(header);
        if (cd[0] * cd[3] - cd[1] * cd[2] == 0) {
            return Optional.empty();
        }
        return Optional.of(new Wcs(
                new Equatorial(
                        Angles.wrap360(header.number("CRVAL1").getAsDouble()),
                        header.number("CRVAL2").getAsDouble()),
                header.number("CRPIX1").getAsDouble(),
                header.number("CRPIX2").getAsDouble(),
                cd[0],
                cd[1],
                cd[2],
                cd[3],
                header.text("CTYPE1").filter(t -> t.endsWith("-SIP")).flatMap(t -> Sip.from(header))));
    }

    private static double[] matrix(Header header) {
        if (header.number("CD1_1").isPresent() || header.number("CD1_2").isPresent()) {
            return new double[] {
                header.number("CD1_1").orElse(0),
                header.number("CD1_2").orElse(0),
                header.number("CD2_1").orElse(0),
                header.number("CD2_2").orElse(0)
            };
        }
        double dx = header.number("CDELT1").orElse(0);
        double dy = header.number("CDELT2").orElse(0);
        double turn = header.number("CROTA2").orElse(0);
        double c = Angles.cosDeg(turn);
        double s = Angles.sinDeg(turn);
        // CROTA2 as a PC matrix: paper II, section 6.1.
        return new double[] {
            dx * header.number("PC1_1").orElse(c),
            dx * header.number("PC1_2").orElse(turn == 0 ? 0 : -s * dy / dx),
            dy * header.number("PC2_1").orElse(turn == 0 ? 0 : s * dx / dy),
            dy * header.number("PC2_2").orElse(c)
        };
    }
}
