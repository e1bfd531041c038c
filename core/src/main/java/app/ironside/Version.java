package app.ironside;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Properties;

/**
 * Which Ironside this is.
 *
 * @param number of the release
 * @param built when it was built, UTC
 */
public record Version(String number, String built) {
    private static final String RESOURCE = "version.properties";

    /** Of the application that runs. */
    public static Version current() {
        try (InputStream in = Version.class.getResourceAsStream(RESOURCE)) {
            Properties told = new Properties();
            told.load(in);
            return new Version(told.getProperty("version"), told.getProperty("built"));
        } catch (IOException e) {
            throw new UncheckedIOException("the version inside the application cannot be read", e);
        }
    }

    @Override
    public String toString() {
        return "Ironside " + number + ", built " + built;
    }
}
