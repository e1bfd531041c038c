package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Progress;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables from anywhere: nothing that they name is fetched, and none takes more than its share. */
class HostileTablesTest {
    private static final String FIELDS =
            "<FIELD name=\"ra\" datatype=\"double\"/><FIELD name=\"dec\" datatype=\"double\"/>"
                    + "<FIELD name=\"mag\" datatype=\"float\"/>";
    private static final String ROW = "<DATA><TABLEDATA><TR><TD>10</TD><TD>20</TD><TD>5</TD></TR></TABLEDATA></DATA>";

    @TempDir
    Path folder;

    private final AtomicInteger asked = new AtomicInteger();
    private HttpServer server;
    private Path secret;

    @BeforeEach
    void somebodyListens() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", exchange -> {
            asked.incrementAndGet();
            exchange.sendResponseHeaders(404, -1);
            exchange.close();
        });
        server.start();
        secret = Files.writeString(folder.resolve("secret.txt"), "topsecret");
    }

    @AfterEach
    void nobodyWasAsked() {
        server.stop(0);
        assertThat(asked).as("requests over the network").hasValue(0);
    }

    private String there() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    private static String votable(String head, String fields, String data) {
        return "<?xml version=\"1.0\"?>" + head + "<VOTABLE version=\"1.3\"><RESOURCE><TABLE>" + fields + data
                + "</TABLE></RESOURCE></VOTABLE>";
    }

    private void refused(String text, String why) throws IOException {
        Path file = Files.writeString(folder.resolve("table.vot"), text);
        for (int way = 0; way < 2; way++) {
            boolean look = way == 0;
            assertThatThrownBy(() -> {
                        if (look) {
                            CatalogueImport.look(file, 3);
                        } else {
                            CatalogueImport.read(file, CatalogueImport.Columns.USUAL, Progress.NONE);
                        }
                    })
                    .isInstanceOf(BadInputException.class)
                    .hasMessageContaining("table.vot")
                    .hasMessageContaining(why)
                    .hasMessageNotContaining("topsecret");
        }
    }

    @Test
    void entitiesAreNotFollowed() throws IOException {
        String inside = ROW.replace("10", "&x;");
        refused(
                votable("<!DOCTYPE a [<!ENTITY x SYSTEM \"" + secret.toUri() + "\">]>", FIELDS, inside),
                "declares a document type");
        refused(votable("<!DOCTYPE a SYSTEM \"" + there() + "/x.dtd\">", FIELDS, ROW), "declares a document type");
        refused(
                votable("<!DOCTYPE a [<!ENTITY % p SYSTEM \"" + there() + "/p\"> %p;]>", FIELDS, ROW),
                "declares a document type");
        StringBuilder laughs = new StringBuilder("<!DOCTYPE a [<!ENTITY a0 'ha'>");
        for (int i = 1; i < 10; i++) {
            laughs.append("<!ENTITY a")
                    .append(i)
                    .append(" '")
                    .append(("&a" + (i - 1) + ";").repeat(10))
                    .append("'>");
        }
        refused(votable(laughs + "]>", FIELDS, ROW.replace("10", "&a9;")), "declares a document type");
    }

    /** UTF-16 is XML too: what is refused in one encoding is refused in the other. */
    @Test
    void anotherEncodingHidesNothing() throws IOException {
        String text = votable("<!DOCTYPE a SYSTEM \"" + there() + "/x.dtd\">", FIELDS, ROW)
                .replace("version=\"1.0\"", "version=\"1.0\" encoding=\"UTF-16\"");
        Path file = Files.write(folder.resolve("wide.xml"), text.getBytes(StandardCharsets.UTF_16));
        assertThatThrownBy(() -> CatalogueImport.read(file, CatalogueImport.Columns.USUAL, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("declares a document type");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<DATA><BINARY><STREAM href=\"%s/rows\"/></BINARY></DATA>",
                "<DATA><BINARY2><STREAM href=\"file:///etc/passwd\"/></BINARY2></DATA>",
                "<DATA><FITS><STREAM href=\"%s/rows.fits\"/></FITS></DATA>",
                "<DATA><v:BINARY xmlns:v=\"x\"><v:STREAM href=\"%s/rows\"/></v:BINARY></DATA>"
            })
    void rowsElsewhereAreNotFetched(String data) throws IOException {
        String text = votable("", FIELDS, data.replace("%s", there()));
        Path file = Files.writeString(folder.resolve("table.vot"), text);
        assertThatThrownBy(() -> CatalogueImport.read(file, CatalogueImport.Columns.USUAL, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("table.vot");
    }

    @ParameterizedTest
    @ValueSource(strings = {"99999999999", "100x100000", "20000", "*x99999999", "many"})
    void widthIsBounded(String size) throws IOException {
        refused(
                votable("", FIELDS + "<FIELD name=\"x\" datatype=\"char\" arraysize=\"" + size + "\"/>", ROW),
                "a column with arraysize");
    }

    @Test
    void depthIsBounded() throws IOException {
        refused(
                votable(
                        "",
                        "<DESCRIPTION>" + "<a>".repeat(5000) + "</a>".repeat(5000) + "</DESCRIPTION>" + FIELDS,
                        ROW),
                "nested more than");
    }

    /** Whatever trips the library is the table's fault and is told as such. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "ra,dec,mag\n",
                "",
                "\0\0\0\0",
                "ra,dec,mag",
                "ra\n",
                "ra,dec,mag\n999,95,3\n",
                "ra,dec,mag\n1,2,NaN\n",
                "\uFFFD\uFFFD"
            })
    void brokenTextIsNamed(String text) throws IOException {
        Path file = Files.writeString(folder.resolve("odd.csv"), text);
        assertThatThrownBy(() -> CatalogueImport.read(file, CatalogueImport.Columns.USUAL, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("odd.csv");
    }

    @Test
    void aLineThatDoesNotEndIsNotReadToItsEnd() throws IOException {
        Path file = Files.writeString(folder.resolve("long.csv"), "ra,dec,mag\n" + "1".repeat(3 << 20));
        assertThatThrownBy(() -> CatalogueImport.read(file, CatalogueImport.Columns.USUAL, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("long.csv");
    }

    /** A name is a name: nothing in it chooses a part, a program or an address. Packed text is read as well. */
    @Test
    void oddNamesAndPackedTablesAreRead() throws IOException {
        String text = "ra,dec,mag\n10,20,5\n11,21,6\n12,22,99\n";
        for (String name : new String[] {"a#1.csv", "<touch x>.csv", "b;c|d.csv", "http: x.csv", "sterne é.csv"}) {
            Path file = Files.writeString(folder.resolve(name), text);
            assertThat(CatalogueImport.read(file, CatalogueImport.Columns.USUAL, Progress.NONE)
                            .size())
                    .as(name + "; a magnitude of 99 is none")
                    .isEqualTo(2);
        }
        Path packed = folder.resolve("deep.csv.gz");
        try (GZIPOutputStream out = new GZIPOutputStream(Files.newOutputStream(packed))) {
            out.write(text.getBytes(StandardCharsets.US_ASCII));
        }
        assertThat(CatalogueImport.read(packed, CatalogueImport.Columns.USUAL, Progress.NONE)
                        .size())
                .isEqualTo(2);
    }
}
