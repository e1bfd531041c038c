package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.JsonText;
import org.junit.jupiter.api.Test;

class SkyScaleTest {
    /** Published: Green 1992, table of his equation 2: molecules take 0.1451 magnitudes at 510 nm at sea level. */
    @Test
    void moleculesAtSeaLevel() {
        assertThat(Extinction.molecules(510, 0)).isCloseTo(0.1451, within(0.0002));
    }

    /** Common practice: blue light loses more than red, and a mountain less than the sea. */
    @Test
    void extinctionByColourAndElevation() {
        assertThat(Extinction.magPerAirmass(450, 0)).isGreaterThan(Extinction.magPerAirmass(640, 0));
        assertThat(Extinction.magPerAirmass(550, 2500)).isLessThan(0.6 * Extinction.magPerAirmass(550, 0));
        assertThat(Extinction.magPerAirmass(550, 0)).isBetween(0.2, 0.3);
    }

    /** By hand: at 18.0 the exponent 4.316 − 3.6 is 0.716, so 7.93 − 5 log(6.200) = 3.97; and it turns back. */
    @Test
    void faintestStars() {
        assertThat(SkyScale.faintestStar(18)).isCloseTo(3.97, within(0.005));
        for (double mag = 17; mag <= 21.8; mag += 0.4) {
            assertThat(SkyScale.magPerArcsec2(SkyScale.faintestStar(mag))).isCloseTo(mag, within(0.02));
        }
    }

    /** Law: classes grow as the sky brightens, and the middle of a class belongs to it. */
    @Test
    void nineClasses() {
        for (int c = 1; c <= 9; c++) {
            assertThat(SkyScale.classOf(SkyScale.ofClass(c))).isEqualTo(c);
        }
        assertThat(SkyScale.classOf(20.9)).isEqualTo(4);
        assertThatThrownBy(() -> SkyScale.ofClass(10)).hasMessageContaining("skyClass");
    }

    /** Law: what is written reads back as the same site. */
    @Test
    void sitesAreOpenFiles() {
        Site site = Examples.site();
        Site again = SiteFile.parse(JsonText.write(SiteFile.tree(site)), "again.json");
        assertThat(SiteFile.tree(again)).isEqualTo(SiteFile.tree(site));
        assertThat(again.marginDeg()).isEqualTo(2);
        assertThat(again.dome()).isEqualTo(site.dome());
        assertThatThrownBy(() -> SiteFile.parse(
                        Examples.text("sites/colle-sorbo.json").replace("Europe/Rome", "Europe/Atlantis"), "s.json"))
                .hasMessage(
                        "s.json: the time zone \"Europe/Atlantis\" is not known; expected a name like \"Europe/Rome\"");
        assertThatThrownBy(() ->
                        SiteFile.parse(Examples.text("sites/colle-sorbo.json").replace("44.05", "144.05"), "s.json"))
                .hasMessageContaining("s.json: latDeg is 144.05");
    }
}
