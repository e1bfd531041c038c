package app.ironside.darkroom;

import app.ironside.FileNames;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/** Names of results, each given once, whatever the file system thinks of capitals. */
final class ResultNames {
    private final Set<String> given = new HashSet<>();

    /** A name in a folder that no other result has. */
    Path in(Path folder, String name, String ending) {
        String plain = FileNames.plain(name, "_");
        for (int n = 1; ; n++) {
            Path file = folder.resolve(n == 1 ? plain + ending : plain + "_" + n + ending);
            if (given.add(file.toString().toLowerCase(Locale.ROOT))) {
                return file;
            }
        }
    }
}
