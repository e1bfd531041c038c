package app.ironside.document;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URL;

/** The face in which Ironside writes, on the desk and on paper. It ships with it: no machine need have it. */
public enum Typeface {
    REGULAR("400Regular", 400),
    BOLD("700Bold", 700);

    /** As style sheets call it. */
    public static final String FAMILY = "IBM Plex Sans";

    private final String file;
    private final int weight;

    Typeface(String file, int weight) {
        this.file = "fonts/IBMPlexSans_" + file + ".ttf";
        this.weight = weight;
    }

    /** As style sheets count it. */
    int weight() {
        return weight;
    }

    /** Where its file lies. */
    public URL resource() {
        return Typeface.class.getResource(file);
    }

    InputStream open() {
        try {
            return resource().openStream();
        } catch (IOException e) {
            throw new UncheckedIOException("a font that ships with Ironside cannot be read", e);
        }
    }
}
