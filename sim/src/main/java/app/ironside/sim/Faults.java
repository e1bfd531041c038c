package app.ironside.sim;

import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import app.ironside.sky.Angles;
import app.ironside.sky.Horizontal;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.ToDoubleFunction;

/**
 * What goes wrong when, and what it does to light, image, motion and devices at any moment: functions of time alone, so that a rehearsal
 * that goes on after a stop finds everything as it was.
 */
final class Faults {
    /** A mount that is held falls behind the sky by so much, arcseconds a second. */
    private static final double SIDEREAL_ARCSEC_PER_S = 15.041;

    private static final Duration CLOUD_EDGE = Duration.ofMinutes(2);

    /** From clear to covered on the sky, radians. */
    private static final double CLOUD_EDGE_WIDTH = 0.15;

    private static final double DEWED_BLUR = 1.2;

    /** Of the light that a lamp adds. */
    private static final double LAMP_SLOPE = 0.45;

    private static final Set<FaultKind> WETTING = EnumSet.of(FaultKind.DEW, FaultKind.FOG);

    /** Of frost, with the heaters on. */
    private static final double HEATED_SHARE = 0.1;

    /** Share of a drift that goes in hour angle, and in declination. */
    private static final double ALONG = 0.8;

    private static final double ACROSS = 0.6;

    private static final Set<FaultKind> HELD =
            EnumSet.of(FaultKind.CONTACT, FaultKind.MOUNT_STUCK, FaultKind.POWER_DIP);

    private static final Set<String> ON_THE_SUPPLY =
            Set.of("camera", "guide camera", "mount", "focuser", "filter wheel", "flat panel");

    private final List<FaultTruth> all;

    /**
     * @param sunset of the night; what is set before noon belongs to the next morning
     */
    Faults(List<RehearsedFault> faults, ZoneId zone, Instant sunset) {
        this.all = FaultTruth.of(faults, zone, sunset);
    }

    List<FaultTruth> all() {
        return all;
    }

    /** Share of light that comes through the air all over the sky. */
    double air(Instant time) {
        return product(f -> switch (f.kind()) {
            case CLOUD -> 1 - f.force() * edge(f, time, CLOUD_EDGE);
            case FOG -> 1 - f.force() * edge(f, time, Duration.ofMinutes(15));
            default -> 1;
        });
    }

    /** Share of light that comes through what covers a part of the sky. */
    double air(Instant time, Horizontal toward) {
        double south = -Angles.cosDeg(toward.azimuthDeg()) * Angles.cosDeg(toward.altitudeDeg());
        double covered = Math.max(0, Math.min(1, 0.5 + south / CLOUD_EDGE_WIDTH));
        return product(f -> f.kind() == FaultKind.HALF_CLOUD ? 1 - f.force() * covered * edge(f, time, CLOUD_EDGE) : 1);
    }

    /** Whether the air is so full of water that glass gets wet. */
    boolean isWet(Instant time) {
        return WETTING.stream().anyMatch(kind -> isOn(kind, time));
    }

    /** Share of light that comes through the main optics. */
    double optics(Instant time) {
        return product(f -> 1 - Math.min(0.98, f.force()) * covered(f, time));
    }

    /** Factor of the width of star images. */
    double blur(Instant time) {
        return product(f -> 1 + DEWED_BLUR * covered(f, time)) * factor(FaultKind.SEEING, time);
    }

    /** How far dew has got. */
    private static double covered(FaultTruth f, Instant time) {
        return f.kind() == FaultKind.DEW ? f.share(time) : 0;
    }

    /** Share of the light in the middle of the field that ice on the sensor's window takes. */
    double frostShare(Instant time, boolean heated) {
        double share = sum(f -> f.kind() == FaultKind.FROST ? Math.min(0.95, f.force()) * f.share(time) : 0);
        return heated ? HEATED_SHARE * share : share;
    }

    /** Factor of the sky's light in a direction. */
    double sky(Instant time, Horizontal toward) {
        return (1 + dome(time, toward))
                * factor(FaultKind.STRAY_LIGHT, time)
                * factor(FaultKind.MOON, time)
                * product(f -> f.kind() == FaultKind.TWILIGHT ? Math.pow(f.force(), f.share(time)) : 1)
                * product(f -> f.kind() == FaultKind.FOG ? 1 + f.force() * edge(f, time, Duration.ofMinutes(15)) : 1);
    }

    /** Light of lamps in the south, in skies of this night: strongest at the horizon there, nothing at the zenith and in the north. */
    double dome(Instant time, Horizontal toward) {
        double here =
                (1 - Angles.sinDeg(Math.max(0, toward.altitudeDeg()))) * (1 - Angles.cosDeg(toward.azimuthDeg())) / 2;
        return sum(f -> f.kind() == FaultKind.LIGHT_DOME && f.isOn(time) ? f.force() * here : 0);
    }

    /** By how much the main telescope looks east of where the guide scope thinks, arcseconds. */
    double flexureArcsec(Instant time) {
        return sum(f -> f.kind() == FaultKind.FLEXURE ? f.force() * f.minutesBy(time) : 0);
    }

    /** How far the guide camera is from focus, micrometres. */
    double guideDefocusUm(Instant time) {
        return stays(FaultKind.GUIDE_FOCUS, time);
    }

    /** Defocus that a tilt of the sensor makes at its right edge, micrometres; as much the other way at its left one. */
    double tiltUm(Instant time) {
        return stays(FaultKind.TILT, time);
    }

    /** What an exposure bears besides the sky. */
    Exposer.Marks marks(Instant middle, double seconds, Horizontal toward, boolean heated) {
        return new Exposer.Marks(
                tiltUm(middle),
                Math.min(0.95, whileOn(FaultKind.BROKEN_FRAME, middle)),
                whileOn(FaultKind.TRAILS, middle) * seconds / 3600,
                whileOn(FaultKind.COSMIC_RAYS, middle) * seconds / 60,
                Math.min(0.6, 0.25 * dome(middle, toward) + lampSlope(middle)),
                frostShare(middle, heated));
    }

    /** A lamp beside the telescope lights one side of the field more than the other. */
    private double lampSlope(Instant time) {
        double factor = factor(FaultKind.STRAY_LIGHT, time);
        return LAMP_SLOPE * (factor - 1) / factor;
    }

    private double stays(FaultKind kind, Instant time) {
        return sum(f -> f.kind() == kind && f.begun(time) ? f.force() : 0);
    }

    private double whileOn(FaultKind kind, Instant time) {
        return sum(f -> f.kind() == kind && f.isOn(time) ? f.force() : 0);
    }

    /** By what factor the real focal length is longer than what the kit says. */
    static double focalLength(List<RehearsedFault> faults) {
        return faults.stream()
                .filter(f -> f.kind() == FaultKind.WRONG_FOCAL_LENGTH)
                .mapToDouble(f -> 1 + f.force() / 100)
                .reduce(1, (a, b) -> a * b);
    }

    /** Factor of the motion of star images from one moment to the next. */
    double shake(Instant time) {
        return factor(FaultKind.WIND, time) * Math.sqrt(factor(FaultKind.SEEING, time));
    }

    /** Factor of the gear's error. */
    double gear(Instant time) {
        return product(
                f -> f.kind() == FaultKind.GEAR_ERROR ? 1 + (f.force() - 1) * edge(f, time, Duration.ofMinutes(5)) : 1);
    }

    /** By how much the telescope has been moved about the polar axis against where it should be, arcseconds. */
    double hourAngleArcsec(Instant time) {
        return sum(f -> {
            double minutes = f.minutesBy(time);
            if (HELD.contains(f.kind())) {
                return -SIDEREAL_ARCSEC_PER_S * 60 * minutes;
            }
            return switch (f.kind()) {
                case CABLE -> -ALONG * dragged(f, minutes);
                case BALANCE -> -f.force() * minutes;
                case TRAILING_EXPOSURE -> f.force() * minutes;
                case KNOCK -> f.begun(time) ? 60 * ALONG * f.force() : 0;
                default -> 0;
            };
        });
    }

    double declinationArcsec(Instant time) {
        return sum(f -> switch (f.kind()) {
            case CABLE -> ACROSS * dragged(f, f.minutesBy(time));
            case KNOCK -> f.begun(time) ? 60 * ACROSS * f.force() : 0;
            default -> 0;
        });
    }

    /** A pull that grows evenly to its force. */
    private static double dragged(FaultTruth f, double minutes) {
        return f.force() * minutes * minutes / Math.max(1, 2 * f.minutesBy(f.until()));
    }

    /** By how much the polar axis has sunk, arcminutes. */
    double axisArcmin(Instant time) {
        return sum(f -> !f.begun(time)
                ? 0
                : switch (f.kind()) {
                    case POLAR_ERROR -> -f.force();
                    case KNOCK -> -0.3 * f.force();
                    default -> 0;
                });
    }

    /** By how much the tube has slipped, micrometres. */
    double focusUm(Instant time) {
        return -stays(FaultKind.FOCUSER_SLIP, time);
    }

    /** Share of light that a spot on the sensor takes. */
    double spot(Instant time) {
        return stays(FaultKind.SPOT, time);
    }

    /** Share of its power that the camera's cooler has left. */
    double coolerShare(Instant time) {
        return Math.min(1, factor(FaultKind.COOLER, time));
    }

    /** Whether a fault of a kind that lasts is on. */
    boolean isOn(FaultKind kind, Instant time) {
        return all.stream().anyMatch(f -> f.kind() == kind && f.isOn(time));
    }

    /** Whether a fault that stays has happened. */
    boolean hasBegun(FaultKind kind, Instant time) {
        return all.stream().anyMatch(f -> f.kind() == kind && f.begun(time));
    }

    /** Whether a device is without power or connection. */
    boolean isLost(String device, Instant time) {
        return device.equals("camera") && isOn(FaultKind.CAMERA_LOST, time)
                || ON_THE_SUPPLY.contains(device) && isOn(FaultKind.POWER_DIP, time);
    }

    /** 0 outside, 1 inside, rising and falling within some time of the ends. */
    private static double edge(FaultTruth f, Instant time, Duration soft) {
        double seconds = Math.min(
                Duration.between(f.from(), time).toMillis(),
                Duration.between(time, f.until()).toMillis());
        return Math.max(0, Math.min(1, seconds / Math.max(1, soft.toMillis())));
    }

    private double factor(FaultKind kind, Instant time) {
        return product(f -> f.kind() == kind && f.isOn(time) ? f.force() : 1);
    }

    private double product(ToDoubleFunction<FaultTruth> factor) {
        double product = 1;
        for (FaultTruth fault : all) {
            product *= factor.applyAsDouble(fault);
        }
        return product;
    }

    private double sum(ToDoubleFunction<FaultTruth> part) {
        double sum = 0;
        for (FaultTruth fault : all) {
            sum += part.applyAsDouble(fault);
        }
        return sum;
    }
}
