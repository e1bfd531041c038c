package app.ironside.logbook;

import app.ironside.image.AtomicFile;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.sqlite.util.LibraryLoaderUtil;

/**
 * Lays SQLite's native library where every start finds it. Otherwise each start copies it to the temporary folder, and a start that is
 * killed leaves its copy there.
 */
public final class NativeLibrary {
    private NativeLibrary() {}

    /**
     * Called once by the launcher, after building.
     *
     * @param arguments the folder; made if it is missing
     */
    public static void main(String[] arguments) throws IOException {
        Path folder = Files.createDirectories(Path.of(arguments[0]));
        String name = LibraryLoaderUtil.getNativeLibName();
        String resource = LibraryLoaderUtil.getNativeLibResourcePath() + "/" + name;
        try (InputStream library = LibraryLoaderUtil.class.getResourceAsStream(resource)) {
            if (library == null) {
                System.err.println("ironside: SQLite has no native library for this system (" + resource + ")");
                return;
            }
            AtomicFile.write(folder.resolve(name), library::transferTo);
        }
    }
}
