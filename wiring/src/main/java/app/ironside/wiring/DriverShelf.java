package app.ironside.wiring;

import app.ironside.device.DeviceDriver;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.ServiceConfigurationError;
import java.util.ServiceLoader;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The drivers that ship, and those in jars that the user laid into the folder {@code drivers} of their data. */
final class DriverShelf {
    private static final Logger LOG = LoggerFactory.getLogger(DriverShelf.class);

    private static final int MOST_BROKEN = 100;

    private final List<DeviceDriver> drivers;

    /**
     * @param dataFolder empty for those that ship only
     */
    DriverShelf(Optional<Path> dataFolder) {
        ClassLoader own = DriverShelf.class.getClassLoader();
        URL[] jars = dataFolder.map(f -> jars(f.resolve("drivers"))).orElse(new URL[0]);
        // Open as long as the process lives: a driver may load its classes at any time.
        ClassLoader loader = jars.length == 0 ? own : new URLClassLoader("drivers", jars, own);
        List<DeviceDriver> found = new ArrayList<>();
        Iterator<DeviceDriver> each =
                ServiceLoader.load(DeviceDriver.class, loader).iterator();
        // A broken jar hides none of the others; what is broken comes up once.
        for (int broken = 0; broken < MOST_BROKEN; ) {
            try {
                if (!each.hasNext()) {
                    break;
                }
                found.add(each.next());
            } catch (ServiceConfigurationError | LinkageError e) {
                broken++;
                LOG.warn("a driver could not be loaded and is left out: {}", e.getMessage());
            }
        }
        found.sort(Comparator.comparing(DeviceDriver::name));
        drivers = List.copyOf(found);
    }

    List<DeviceDriver> all() {
        return drivers;
    }

    private static URL[] jars(Path folder) {
        if (!Files.isDirectory(folder)) {
            return new URL[0];
        }
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(f -> f.toString().endsWith(".jar"))
                    .sorted()
                    .map(DriverShelf::url)
                    .toArray(URL[]::new);
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " cannot be looked into", e);
        }
    }

    private static URL url(Path jar) {
        try {
            return jar.toUri().toURL();
        } catch (MalformedURLException e) {
            throw new UncheckedIOException("a driver's jar has no place", e);
        }
    }
}
