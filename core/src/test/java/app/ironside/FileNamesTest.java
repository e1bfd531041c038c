package app.ironside;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FileNamesTest {
    @ParameterizedTest
    @CsvSource({
        "NGC 2403 / a:b, NGC_2403_a_b",
        "Sh2-155, Sh2-155",
        "M 33 (Hα), M_33_Hα_",
        "../../etc, _etc",
        "Forêt, Forêt",
        "十月 の夜, 十月_の夜"
    })
    void lettersOfAnyScriptStay(String name, String file) {
        assertThat(FileNames.plain(name, "_")).isEqualTo(file);
    }

    /** One letter may be written as one character or as two; the file is the same. */
    @Test
    void anAccentIsTheSameHoweverItIsTyped() {
        assertThat(FileNames.plain("Fore\u0302t", "-")).isEqualTo(FileNames.plain("For\u00eat", "-"));
    }

    /** Law: nothing is left that a file system gives a meaning to, and a second pass changes nothing. */
    @Property(tries = 300)
    void noCharacterOfMeaningIsLeft(@ForAll String name) {
        String file = FileNames.plain(name, "_");
        assertThat(file).doesNotContain("/", "\\", ":", "*", "?", "\"", "<", ">", "|", ".", "\0", " ", "\n");
        assertThat(FileNames.plain(file, "_")).isEqualTo(file);
    }
}
