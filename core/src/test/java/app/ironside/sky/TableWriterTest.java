package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import javax.xml.parsers.DocumentBuilderFactory;
import nom.tam.fits.BinaryTableHDU;
import nom.tam.fits.Fits;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Element;

/** What is written is read by others: the JDK's XML reader, and the FITS library that reads frames. */
class TableWriterTest {
    private static final List<TableWriter.Column> COLUMNS = List.of(
            new TableWriter.Column("target", "", "", String.class),
            new TableWriter.Column("altitude", "deg", "apparent", Double.class),
            new TableWriter.Column("stars", "", "", Integer.class));
    private static final List<Object[]> ROWS =
            List.of(new Object[] {"M 33, \"the\" galaxy", 61.5, 900}, new Object[] {null, null, 12L});

    private static byte[] written(String name) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        TableWriter.of(name).orElseThrow().write("subs", COLUMNS, ROWS, out);
        out.write(new byte[0]); // it is still open
        return out.toByteArray();
    }

    /** Quotes as RFC 4180 has them: doubled, in a field that is quoted. */
    @Test
    void csv() throws Exception {
        assertThat(new String(written("t.csv"), StandardCharsets.UTF_8).lines())
                .containsExactly("target,altitude,stars", "\"M 33, \"\"the\"\" galaxy\",61.5,900", ",,12");
    }

    @Test
    void voTable() throws Exception {
        var document = DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(new ByteArrayInputStream(written("t.VOT")));
        Element altitude = (Element) document.getElementsByTagName("FIELD").item(1);
        assertThat(altitude.getAttribute("name")).isEqualTo("altitude");
        assertThat(altitude.getAttribute("unit")).isEqualTo("deg");
        assertThat(document.getElementsByTagName("TD").item(0).getTextContent()).isEqualTo("M 33, \"the\" galaxy");
        assertThat(document.getElementsByTagName("TR").getLength()).isEqualTo(2);
    }

    @Test
    void fitsTable() throws Exception {
        try (Fits fits = new Fits(new ByteArrayInputStream(written("t.fits")))) {
            fits.readHDU();
            BinaryTableHDU table = (BinaryTableHDU) fits.readHDU();
            assertThat(table.getNRows()).isEqualTo(2);
            assertThat(table.getColumnName(1)).isEqualTo("altitude");
            assertThat(table.getHeader().getStringValue("TUNIT2")).isEqualTo("deg");
            assertThat(((double[]) table.getElement(0, 1))[0]).isEqualTo(61.5);
        }
    }

    @Test
    void otherEndingsAreNone() {
        assertThat(TableWriter.of("t.ods")).isEmpty();
        assertThat(TableWriter.of("csv")).isEmpty();
    }
}
