package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Nothing is written over what was read, under no name, and a place that takes no file is found before the work. */
class DestinationTest {
    @TempDir
    Path folder;

    private Path light;

    @BeforeEach
    void aLight() throws IOException {
        light = Files.writeString(folder.resolve("light.fits"), "raw");
    }

    private void refused(Path out, String why) {
        assertThatThrownBy(() -> Destination.file(out, "option --out", List.of(light)))
                .isInstanceOf(BadInputException.class)
                .hasMessageStartingWith("option --out: ")
                .hasMessageContaining(why);
        assertThat(light).hasContent("raw");
    }

    @Test
    void anInputIsNoPlaceForAResultUnderAnyName() throws IOException {
        refused(light, "is one of the inputs");
        refused(folder.resolve("x/../light.fits").normalize(), "is one of the inputs");
        refused(Files.createSymbolicLink(folder.resolve("soft.fits"), light), "is one of the inputs");
        refused(Files.createLink(folder.resolve("hard.fits"), light), "is one of the inputs");
        Path linked = Files.createSymbolicLink(folder.resolve("linked folder"), folder);
        refused(linked.resolve("light.fits"), "is one of the inputs");
    }

    @Test
    void whatTakesNoFileIsFoundBeforeTheWork() throws IOException {
        refused(Path.of(""), "names no file");
        refused(Path.of("/"), "names no file");
        refused(folder, "is a folder");
        refused(folder.resolve("not there/out.fits"), "there is no folder");
        refused(light.resolve("out.fits"), "there is no folder");
        Path free = folder.resolve("out.fits");
        assertThat(Destination.file(free, "option --out", List.of(light))).isEqualTo(free);
        try (var left = Files.list(folder)) {
            assertThat(left).as("the question leaves nothing behind").containsExactly(light);
        }
    }

    @Test
    void aFileIsNoFolder() {
        assertThatThrownBy(() -> Destination.folder(light, "option --out"))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("light.fits cannot be made");
        assertThat(Destination.folder(folder.resolve("a/b"), "option --out")).isDirectory();
    }

    /** By hand: two nights with files of the same name, and a name that differs in a letter's case only. */
    @Test
    void twoInputsOfOneNameGetTwoResults() throws IOException {
        Path one = write("n1/x.fits");
        Path two = write("n2/x.fits");
        Path three = write("n3/X.fits");
        Path four = write("n3/y.fits");
        Path out = Files.createDirectory(folder.resolve("out"));
        assertThat(Destination.oneEach(out, List.of(one, two, three, four), "option --out"))
                .containsEntry(one, out.resolve("n1_x.fits"))
                .containsEntry(two, out.resolve("n2_x.fits"))
                .containsEntry(three, out.resolve("n3_X.fits"))
                .containsEntry(four, out.resolve("y.fits"))
                .hasSize(4);
        // What is written is plain FITS, and is called so.
        Path packed = write("n3/z.fits.fz");
        Path tiff = write("n3/w.TIF");
        assertThat(Destination.oneEach(out, List.of(packed, tiff), "option --out"))
                .containsEntry(packed, out.resolve("z.fits"))
                .containsEntry(tiff, out.resolve("w.fits"));
        assertThatThrownBy(() -> Destination.oneEach(folder.resolve("n3"), List.of(four), "option --out"))
                .hasMessageContaining("is one of the inputs");
    }

    @Test
    void anInputCountsOnce() throws IOException {
        Path link = Files.createSymbolicLink(folder.resolve("again.fits"), light);
        assertThatThrownBy(() -> Destination.mustDiffer(List.of(light, light))).hasMessageContaining("is given twice");
        assertThatThrownBy(() -> Destination.mustDiffer(List.of(light, link)))
                .hasMessageContaining("again.fits: is the same file as");
        Destination.mustDiffer(List.of(light, write("other.fits")));
    }

    private Path write(String name) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        return Files.writeString(file, name);
    }
}
