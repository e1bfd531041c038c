package app.ironside.sky;

/** Three-vectors as {@code double[3]}; every method returns a new array. */
public final class Vectors {
    private Vectors() {}

    /** Unit vector of a longitude and latitude in degrees. */
    public static double[] of(double longitudeDeg, double latitudeDeg) {
        double lon = Math.toRadians(longitudeDeg);
        double lat = Math.toRadians(latitudeDeg);
        return new double[] {Math.cos(lat) * Math.cos(lon), Math.cos(lat) * Math.sin(lon), Math.sin(lat)};
    }

    public static double dot(double[] a, double[] b) {
        return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    }

    public static double[] cross(double[] a, double[] b) {
        return new double[] {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
    }

    public static double[] minus(double[] a, double[] b) {
        return new double[] {a[0] - b[0], a[1] - b[1], a[2] - b[2]};
    }

    public static double length(double[] a) {
        return Math.sqrt(dot(a, a));
    }

    /** The vector of length 1 in the same direction. */
    public static double[] unit(double[] a) {
        double length = length(a);
        return new double[] {a[0] / length, a[1] / length, a[2] / length};
    }

    /** Angle between two vectors in radians; atan2 keeps it exact where acos loses digits. */
    public static double angle(double[] a, double[] b) {
        return Math.atan2(length(cross(a, b)), dot(a, b));
    }

    /** {@code v} turned about the unit vector {@code axis} by the right-hand rule (Rodrigues' formula). */
    public static double[] turn(double[] v, double[] axis, double angleRad) {
        double c = Math.cos(angleRad);
        double s = Math.sin(angleRad);
        double[] across = cross(axis, v);
        double along = dot(axis, v) * (1 - c);
        return new double[] {
            v[0] * c + across[0] * s + axis[0] * along,
            v[1] * c + across[1] * s + axis[1] * along,
            v[2] * c + across[2] * s + axis[2] * along
        };
    }
}
