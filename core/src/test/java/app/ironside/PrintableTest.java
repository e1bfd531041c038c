package app.ironside;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class PrintableTest {
    /** By hand: an escape sequence that would clear a terminal, one that would turn the writing round, and two lines. */
    @Test
    void nothingThatATerminalObeysIsLeft() {
        assertThat(Printable.line("a\u001b[2Jb")).isEqualTo("a\uFFFD[2Jb");
        assertThat(Printable.line("gnp.\u202Efits")).isEqualTo("gnp.\uFFFDfits");
        assertThat(Printable.line(" two \n lines ")).isEqualTo("two lines");
        assertThat(Printable.line(null)).isEqualTo("no message");
        assertThat(Printable.line("Forêt 十月")).isEqualTo("Forêt 十月");
        assertThat(Printable.line("9".repeat(5000))).hasSizeLessThan(700).contains(" … ");
    }

    /** Law: one line without control characters, and a second pass changes nothing. */
    @Property(tries = 300)
    void oneLineIsOneLine(@ForAll String text) {
        String line = Printable.line(text);
        assertThat(line.lines().count()).isLessThanOrEqualTo(1);
        assertThat(line.chars().noneMatch(Character::isISOControl)).isTrue();
        assertThat(Printable.line(line)).isEqualTo(line);
    }

    /** Published: RFC 4180, 2.6 and 2.7; that spreadsheets compute cells which begin with = + - @ is common knowledge. */
    @Test
    void cellsStayText() {
        assertThat(Csv.cell("M 33")).isEqualTo("M 33");
        assertThat(Csv.cell("M 33, north")).isEqualTo("\"M 33, north\"");
        assertThat(Csv.cell("the \"hook\"")).isEqualTo("\"the \"\"hook\"\"\"");
        assertThat(Csv.cell("=cmd|' /C calc'!A0")).isEqualTo("'=cmd|' /C calc'!A0");
        assertThat(Csv.cell("-12.5")).isEqualTo("-12.5");
        assertThat(Csv.cell("two\nlines")).isEqualTo("two lines");
        assertThat(Csv.cell("")).isEmpty();
    }

    @Test
    void namesAreNames() {
        assertThat(Check.name("the name", "Colle Sorbo (2)")).isEqualTo("Colle Sorbo (2)");
        for (String bad : new String[] {"", "  ", "--", "a\u0000b", "x".repeat(300), null}) {
            org.assertj.core.api.Assertions.assertThatThrownBy(() -> Check.name("the name of a kit", bad))
                    .hasMessageStartingWith("the name of a kit is ")
                    .hasMessageContaining("expected 1 to 120 letters");
        }
    }
}
