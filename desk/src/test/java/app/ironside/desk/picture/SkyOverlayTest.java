package app.ironside.desk.picture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.FolderWatch;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.solve.Wcs;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SkyOverlayTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();

    private static Wcs wcs(double ra, double dec, double scale) {
        return new Wcs(new Equatorial(ra, dec), 1400.5, 1050.5, -scale / 3600, 0, 0, scale / 3600);
    }

    /** Law: every point of a line lies on the line that its name says. */
    @Test
    void linesLieWhereTheirNamesSay() {
        Wcs wcs = wcs(35.6, 42.3, 3);
        SkyOverlay overlay = SkyOverlay.of(wcs, 2800, 2100, OBJECTS, List.of());
        assertThat(overlay.lines()).hasSizeGreaterThan(5);
        for (SkyOverlay.Line line : overlay.lines()) {
            double[] first = line.points().get(0);
            double[] last = line.points().get(line.points().size() - 1);
            Equatorial a = wcs.toSky(first[0], first[1]);
            Equatorial b = wcs.toSky(last[0], last[1]);
            if (line.name().contains("h")) {
                assertThat(a.raDeg()).isCloseTo(b.raDeg(), within(1e-6));
            } else {
                assertThat(a.decDeg()).isCloseTo(b.decDeg(), within(1e-6));
                assertThat(Double.parseDouble(line.name().replace("°", ""))).isCloseTo(a.decDeg(), within(0.005));
            }
        }
        assertThat(overlay.objects())
                .anyMatch(o -> o.name().equals("NGC 891") && Math.hypot(o.x() - 1400.5, o.y() - 1050.5) < 120);
    }

    @Test
    void aroundThePoleTheGridHolds() {
        SkyOverlay overlay = SkyOverlay.of(wcs(10, 89.6, 3), 2800, 2100, OBJECTS, List.of());
        assertThat(overlay.lines()).isNotEmpty().allMatch(l -> l.points().size() > 1);
    }

    /** A file counts once it has stopped growing; what was there before never does. */
    @Test
    void aFolderTellsOfEachFrameOnce(@TempDir Path folder) throws Exception {
        Files.write(folder.resolve("old.fits"), new byte[10]);
        FolderWatch watch = new FolderWatch(folder);
        assertThat(watch.next()).isEmpty();
        Path fresh = folder.resolve("new.fit");
        Files.write(fresh, new byte[10]);
        Files.setLastModifiedTime(fresh, FileTime.fromMillis(4_000_000_000_000L));
        assertThat(watch.next()).as("still being written").isEmpty();
        Files.write(fresh, new byte[20]);
        Files.setLastModifiedTime(fresh, FileTime.fromMillis(4_000_000_010_000L));
        assertThat(watch.next()).as("it grew").isEmpty();
        assertThat(watch.next()).containsExactly(fresh);
        assertThat(watch.next()).isEmpty();
        Files.write(folder.resolve("note.txt"), new byte[10]);
        assertThat(watch.next()).isEmpty();
        // Two that come between two questions are both told, the older first.
        Path later = Files.write(folder.resolve("a.FITS"), new byte[10]);
        Path earlier = Files.write(folder.resolve("b.fits"), new byte[10]);
        Files.setLastModifiedTime(later, FileTime.fromMillis(4_000_000_030_000L));
        Files.setLastModifiedTime(earlier, FileTime.fromMillis(4_000_000_020_000L));
        assertThat(watch.next()).isEmpty();
        assertThat(watch.next()).containsExactly(earlier, later);
    }
}
