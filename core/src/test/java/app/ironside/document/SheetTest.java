package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;

/** Read back by a PDF library. */
class SheetTest {
    /** The faces that every reader of PDF has know neither primes nor the true minus, nor names in Greek and Cyrillic. */
    @Test
    void whatAFaceOfThe1990sLacksIsPrinted() throws Exception {
        Sheet sheet = new Sheet("Σκόπελος, Скопелос");
        sheet.paragraph("0.62″ of 8.6′ at −3 °C, ≤ 2 × σ");
        sheet.warning("wait ½ h");
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Sheet.pdf(sheet.html(), out);
        try (var document = Loader.loadPDF(out.toByteArray())) {
            assertThat(new PDFTextStripper().getText(document))
                    .contains("Σκόπελος, Скопелос", "0.62″ of 8.6′ at −3 °C, ≤ 2 × σ", "! wait ½ h");
            for (var name : document.getPage(0).getResources().getFontNames()) {
                PDFont font = document.getPage(0).getResources().getFont(name);
                assertThat(font.isEmbedded()).as(font.getName()).isTrue();
            }
        }
    }
}
