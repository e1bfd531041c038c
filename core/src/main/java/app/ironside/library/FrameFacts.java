package app.ironside.library;

import app.ironside.image.FrameHead;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizon;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.solve.SolveHints;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/**
 * What a frame's header tells, in whichever of the usual words; what it does not tell is empty.
 *
 * @param kind by IMAGETYP and its like, else by the names of file and folders
 * @param gain the camera's own setting, not electrons
 * @param temperatureC of the sensor, as wanted where the header tells that and it was reached, else as measured
 * @param regulated whether a wanted temperature is told
 * @param widthPx pixels along NAXIS1
 * @param planes 1, or the colours of a cube
 * @param bayer colours of the mosaic's first two pixels and the two above, in the order of the file's rows: "RGGB"
 * @param start of the exposure, UTC
 * @param pointed where it looks, by WCS or by the mount's word
 * @param rotatorDeg angle of a rotator
 * @param arcsecPerPixel by WCS, or by focal length and pixel size
 * @param combined frames in a master
 */
public record FrameFacts(
        FrameKind kind,
        Optional<String> target,
        Optional<String> filter,
        OptionalDouble exposureS,
        OptionalDouble gain,
        OptionalDouble offset,
        OptionalDouble temperatureC,
        boolean regulated,
        OptionalInt binning,
        int widthPx,
        int heightPx,
        int planes,
        Optional<String> bayer,
        Optional<String> camera,
        Optional<String> telescope,
        Optional<Instant> start,
        Optional<Equatorial> pointed,
        Optional<Site> place,
        OptionalDouble toldAltitudeDeg,
        OptionalDouble rotatorDeg,
        OptionalDouble arcsecPerPixel,
        OptionalInt combined) {
    private static final List<String> KIND = List.of("IMAGETYP", "FRAMETYP", "FRAME", "OBSTYPE", "PICTTYPE", "IMGTYPE");
    private static final List<String> FILTER = List.of("FILTER", "FILTER1", "FILTNAM", "INSFLNAM");
    private static final List<String> GAIN = List.of("GAIN", "ISOSPEED", "ISO");
    private static final List<String> OFFSET = List.of("OFFSET", "BLKLEVEL", "BLACKLVL");
    private static final List<String> MEASURED =
            List.of("CCD-TEMP", "CCDTEMP", "SENSTEMP", "DET-TEMP", "DETTEMP", "TEMPERAT");
    private static final List<String> WANTED = List.of("SET-TEMP", "SETTEMP", "CCD-SETP");
    private static final List<String> BINNING = List.of("XBINNING", "CCDXBIN", "BINX", "XBIN", "BINNING");
    private static final List<String> LATITUDE =
            List.of("SITELAT", "LAT-OBS", "OBS-LAT", "OBSLAT", "LATITUDE", "SITE-LAT", "GEOLAT");
    private static final List<String> LONGITUDE =
            List.of("SITELONG", "LONG-OBS", "OBS-LONG", "OBSLONG", "LONGITUD", "SITE-LON", "GEOLON", "SITELON");
    private static final List<String> ELEVATION = List.of("SITEELEV", "ALT-OBS", "OBS-ELEV", "OBSALT", "ELEVATIO");
    private static final List<String> ALTITUDE = List.of("OBJCTALT", "CENTALT", "TELALT");
    private static final List<String> ROTATOR = List.of("ROTATANG", "ROTATOR", "ROTSKYPA", "POSANGLE");

    /** A wanted temperature counts when the sensor was as near to it. */
    private static final double REACHED_C = 1.5;

    private static final double LONGEST_BIAS_SECONDS = 0;

    /** Zenith brightness of a site that a header does not tell; nothing here is reckoned with it. */
    private static final double UNTOLD_SKY = 20;

    /** What a file's head tells. */
    public static FrameFacts of(Path file, FrameHead head) {
        return of(file, head.header(), head.width(), head.height(), head.planes());
    }

    /** As above, of a frame that has been read. */
    public static FrameFacts of(Path file, Header header, int width, int height, int planes) {
        FrameKind kind = kind(file, header);
        OptionalDouble measured = number(header, MEASURED);
        OptionalDouble wanted = number(header, WANTED);
        boolean regulated = wanted.isPresent()
                && (measured.isEmpty() || Math.abs(wanted.getAsDouble() - measured.getAsDouble()) <= REACHED_C);
        OptionalInt combined = header.number("NCOMBINE").isPresent()
                ? OptionalInt.of((int) header.number("NCOMBINE").getAsDouble())
                : OptionalInt.empty();
        SolveHints hints = SolveHints.of(header, width, height);
        OptionalDouble rotator = number(header, ROTATOR);
        return new FrameFacts(
                kind,
                kind == FrameKind.LIGHT || kind == FrameKind.UNKNOWN
                        ? word(header, List.of("OBJECT"))
                        : Optional.empty(),
                kind.sawLight() || kind == FrameKind.UNKNOWN ? word(header, FILTER) : Optional.empty(),
                header.exposureSeconds(),
                number(header, GAIN),
                number(header, OFFSET),
                regulated ? wanted : measured,
                regulated,
                binning(header),
                width,
                height,
                planes,
                Mosaic.of(header).map(Mosaic::pattern),
                word(header, List.of("INSTRUME", "CAMERA")),
                word(header, List.of("TELESCOP")),
                header.start(),
                hints.near(),
                place(header),
                altitude(header),
                rotator,
                hints.scaleArcsecPerPixel(),
                combined);
    }

    private static FrameKind kind(Path file, Header header) {
        Optional<FrameKind> told = KIND.stream()
                .flatMap(k -> header.text(k).stream())
                .flatMap(words -> FrameKind.ofWords(words).stream())
                .findFirst();
        int combined =
                (int) header.number("NCOMBINE").orElse(header.number("STACKCNT").orElse(1));
        Optional<FrameKind> kind = told.or(() -> byName(file));
        if (kind.isPresent() && combined > 1) {
            return kind.get() == FrameKind.LIGHT
                    ? FrameKind.UNKNOWN
                    : kind.get().master();
        }
        boolean closed =
                header.exposureSeconds().isPresent() && header.exposureSeconds().getAsDouble() <= LONGEST_BIAS_SECONDS;
        return kind.orElse(closed ? FrameKind.BIAS : FrameKind.UNKNOWN);
    }

    /** The file's own name before the nearest folder's, three folders up. */
    private static Optional<FrameKind> byName(Path file) {
        Path at = file.toAbsolutePath();
        for (int level = 0; level < 4 && at != null && at.getFileName() != null; level++) {
            Optional<FrameKind> kind = FrameKind.ofWords(at.getFileName().toString());
            if (kind.isPresent()) {
                return kind;
            }
            at = at.getParent();
        }
        return Optional.empty();
    }

    private static Optional<String> word(Header header, List<String> keywords) {
        return keywords.stream()
                .flatMap(k -> header.text(k).stream())
                .filter(w -> !w.isBlank() && !w.equalsIgnoreCase("none") && !w.equalsIgnoreCase("unknown"))
                .findFirst();
    }

    private static OptionalDouble number(Header header, List<String> keywords) {
        return keywords.stream()
                .map(header::number)
                .filter(n -> n.isPresent() && Double.isFinite(n.getAsDouble()))
                .findFirst()
                .orElse(OptionalDouble.empty());
    }

    /** As a number or as "2x2". */
    private static OptionalInt binning(Header header) {
        return BINNING.stream()
                .flatMap(k -> header.text(k).stream())
                .map(t -> t.replaceFirst("(?i)\\s*[x*].*", "").replaceFirst("\\.0*$", ""))
                .filter(t -> t.matches("\\d{1,2}"))
                .mapToInt(Integer::parseInt)
                .filter(n -> n >= 1)
                .findFirst();
    }

    private static Optional<Site> place(Header header) {
        OptionalDouble lat = angle(header, LATITUDE);
        OptionalDouble lon = angle(header, LONGITUDE);
        boolean inRange = lat.isPresent()
                && lon.isPresent()
                && Math.abs(lat.getAsDouble()) <= 90
                && Math.abs(lon.getAsDouble()) <= 360
                && !(lat.getAsDouble() == 0 && lon.getAsDouble() == 0);
        if (!inRange) {
            return Optional.empty();
        }
        double east = lon.getAsDouble() > 180
                ? lon.getAsDouble() - 360
                : lon.getAsDouble() < -180 ? lon.getAsDouble() + 360 : lon.getAsDouble();
        double elevation =
                Math.max(-400, Math.min(8800, number(header, ELEVATION).orElse(0)));
        return Optional.of(new Site(
                "as the header tells", lat.getAsDouble(), east, elevation, ZoneOffset.UTC, UNTOLD_SKY, Horizon.FLAT));
    }

    private static OptionalDouble angle(Header header, List<String> keywords) {
        OptionalDouble number = number(header, keywords);
        return number.isPresent()
                ? number
                : keywords.stream()
                        .flatMap(k -> header.text(k).stream())
                        .map(SolveHints::sexagesimal)
                        .filter(OptionalDouble::isPresent)
                        .findFirst()
                        .orElse(OptionalDouble.empty());
    }

    private static OptionalDouble altitude(Header header) {
        OptionalDouble told = angle(header, ALTITUDE);
        if (told.isPresent() && told.getAsDouble() > 0 && told.getAsDouble() <= 90) {
            return told;
        }
        OptionalDouble airmass = number(header, List.of("AIRMASS"));
        return airmass.isPresent() && airmass.getAsDouble() >= 1 && airmass.getAsDouble() < 30
                ? OptionalDouble.of(Math.toDegrees(Math.asin(1 / airmass.getAsDouble())))
                : OptionalDouble.empty();
    }

    /** The same, taken at a place that the header does not tell. */
    public FrameFacts at(Site site) {
        return new FrameFacts(
                kind,
                target,
                filter,
                exposureS,
                gain,
                offset,
                temperatureC,
                regulated,
                binning,
                widthPx,
                heightPx,
                planes,
                bayer,
                camera,
                telescope,
                start,
                pointed,
                Optional.of(site),
                toldAltitudeDeg,
                rotatorDeg,
                arcsecPerPixel,
                combined);
    }

    /** The same with what a person says of it. */
    FrameFacts corrected(FactBook.Correction c) {
        FrameKind said = c.kind().orElse(kind);
        // A dark has no target and no filter, whatever its header says.
        boolean light = said == FrameKind.LIGHT || said == FrameKind.UNKNOWN;
        return new FrameFacts(
                said,
                light ? c.target().or(() -> target) : Optional.empty(),
                light || said.sawLight() ? c.filter().or(() -> filter) : Optional.empty(),
                or(c.exposureS(), exposureS),
                or(c.gain(), gain),
                or(c.offset(), offset),
                or(c.temperatureC(), temperatureC),
                regulated || c.temperatureC().isPresent(),
                binning,
                widthPx,
                heightPx,
                planes,
                bayer,
                camera,
                telescope,
                start,
                pointed,
                place,
                toldAltitudeDeg,
                rotatorDeg,
                arcsecPerPixel,
                combined);
    }

    private static OptionalDouble or(Optional<Double> said, OptionalDouble told) {
        return said.isPresent() ? OptionalDouble.of(said.get()) : told;
    }

    /** When the exposure ended, or its start where the length is not told. */
    public Optional<Instant> end() {
        return start.map(s -> s.plusMillis(Math.round(exposureS.orElse(0) * 1000)));
    }

    /** The middle of the exposure, or its start where the length is not told. */
    public Optional<Instant> middle() {
        return start.map(s -> s.plusMillis(Math.round(exposureS.orElse(0) * 500)));
    }

    /** Where it looked in the sky: by place, direction and time, or by the header's word. */
    public OptionalDouble altitudeDeg() {
        if (place.isPresent() && pointed.isPresent() && middle().isPresent()) {
            return OptionalDouble.of(Observer.at(place.get())
                    .observed(pointed.get(), middle().get())
                    .altitudeDeg());
        }
        return toldAltitudeDeg;
    }

    /** The local date of the evening, from noon to noon, where the place is told; else that of UTC. */
    public Optional<LocalDate> night() {
        double eastHours = place.map(p -> p.lonDeg() / 15).orElse(0.0);
        return start.map(s -> s.plusMillis(Math.round((eastHours - 12) * 3_600_000))
                .atOffset(ZoneOffset.UTC)
                .toLocalDate());
    }

    /** By which a name is known however it is written: "NGC 281", "ngc0281" and "NGC_281" are one. */
    static String key(String name) {
        String[] parts = name.toUpperCase(Locale.ROOT).split("(?<=\\D)(?=\\d)|(?<=\\d)(?=\\D)");
        return String.join(
                        "",
                        Arrays.stream(parts)
                                .map(p -> p.replaceFirst("^0+(?=\\d)", ""))
                                .toList())
                .replaceAll("[\\s_-]+", "");
    }
}
