package app.ironside.sky;

import app.ironside.Check;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Optional;

/**
 * A place to observe from.
 *
 * @param latDeg geodetic latitude (WGS 84), north positive
 * @param lonDeg longitude, east positive, −180 to 180
 * @param elevationM above sea level, metres
 * @param skyMagPerArcsec2 zenith brightness of the moonless night sky, V magnitudes per square arcsecond
 * @param horizon the true skyline
 * @param marginDeg a target counts as up only this far above the skyline (common practice: 2 to 5)
 * @param seeingArcsec full width of a star at half its peak in the middle of its nights; empty if nobody has said
 * @param dome the glow of a town, if one side of the sky has it
 */
public record Site(
        String name,
        double latDeg,
        double lonDeg,
        double elevationM,
        ZoneId zone,
        double skyMagPerArcsec2,
        Horizon horizon,
        double marginDeg,
        Optional<LightDome> dome,
        Optional<Double> seeingArcsec) {
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT);

    /** A site without margin and without a town. */
    public Site(
            String name,
            double latDeg,
            double lonDeg,
            double elevationM,
            ZoneId zone,
            double skyMagPerArcsec2,
            Horizon horizon) {
        this(name, latDeg, lonDeg, elevationM, zone, skyMagPerArcsec2, horizon, 0, Optional.empty(), Optional.empty());
    }

    public Site {
        Check.name("the name of a site", name);
        Check.inRange("latDeg", latDeg, -90, 90);
        seeingArcsec.ifPresent(s -> Check.inRange("seeingArcsec", s, 0.2, 20));
        Check.inRange("lonDeg", lonDeg, -180, 180);
        Check.inRange("elevationM", elevationM, -500, 9000);
        Check.inRange("skyMagPerArcsec2", skyMagPerArcsec2, 14, 22.5);
        Check.inRange("marginDeg", marginDeg, 0, 30);
    }

    /** What a clock on the wall shows there: "23:05". */
    public String clock(Instant time) {
        return CLOCK.format(time.atZone(zone));
    }

    /** The altitude of the pole that is above the horizon. */
    public double poleAltitudeDeg() {
        return Math.abs(latDeg);
    }

    /** Azimuth of that pole: 0 in the north, 180 in the south. */
    public double poleAzimuthDeg() {
        return latDeg >= 0 ? 0 : 180;
    }
}
