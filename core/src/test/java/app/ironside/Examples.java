package app.ironside;

import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Site;
import app.ironside.sky.SiteFile;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** The invented site, kits and night that ship in examples/. */
public final class Examples {
    private Examples() {}

    public static String text(String file) {
        try {
            return Files.readString(Path.of("..", "examples", file));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public static NightFile night(DeepSkyCatalogue objects) {
        return NightFile.parse(text("colle-sorbo.json"), "colle-sorbo.json", objects);
    }

    public static Kit kit(String name) {
        return KitFile.parse(text("kits/" + name + ".json"), name + ".json");
    }

    public static Site site() {
        return SiteFile.parse(text("sites/colle-sorbo.json"), "colle-sorbo.json");
    }
}
