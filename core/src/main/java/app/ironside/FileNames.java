package app.ironside;

import java.text.Normalizer;

/** Names of things as names of files. */
public final class FileNames {
    private FileNames() {}

    /**
     * A name that every file system takes and a person still reads: letters and digits of any script, plus and minus; what is between
     * them becomes one gap. Two names that differ in their letters stay different.
     *
     * @param gap for instance "_"
     */
    public static String plain(String name, String gap) {
        return Normalizer.normalize(name, Normalizer.Form.NFC).replaceAll("[^\\p{L}\\p{N}+-]+", gap);
    }
}
