package app.ironside;

import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.Locale;
import java.util.zip.CRC32;

/** Names of things as names of files. */
public final class FileNames {
    private FileNames() {}

    /**
     * A name that every file system takes and a person still reads: letters and digits of any script, plus and minus; what is between
     * them becomes one gap. Two names may give one: whoever must not mix them asks {@link #distinct}.
     *
     * @param gap for instance "_"
     */
    public static String plain(String name, String gap) {
        return Normalizer.normalize(name, Normalizer.Form.NFC).replaceAll("[^\\p{L}\\p{N}+-]+", gap);
    }

    /**
     * As {@link #plain}, and no two names give the same, on no file system: what is lost, the case of letters too, is told by a few
     * digits after the name.
     */
    public static String distinct(String name, String gap) {
        String plain = plain(name, gap).toLowerCase(Locale.ROOT);
        boolean whole = name.equals(plain.replace(gap, " "));
        return whole ? plain : plain + gap + String.format(Locale.ROOT, "%08x", crc(name));
    }

    private static long crc(String name) {
        CRC32 crc = new CRC32();
        crc.update(name.getBytes(StandardCharsets.UTF_8));
        return crc.getValue();
    }
}
