package app.ironside.sky;

import app.ironside.BadInputException;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringReader;
import java.util.Locale;
import javax.xml.XMLConstants;
import javax.xml.parsers.ParserConfigurationException;
import javax.xml.parsers.SAXParser;
import javax.xml.parsers.SAXParserFactory;
import org.xml.sax.Attributes;
import org.xml.sax.InputSource;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;
import org.xml.sax.helpers.DefaultHandler;

/**
 * Looks a VOTable through before anything else reads it: XML can name other files and addresses to be fetched, and a few of its words can
 * ask for any amount of memory. Such files are refused, not followed.
 *
 * @see "OWASP, XML External Entity Prevention; IVOA Recommendation VOTable 1.4, section 5.4 (remote data)"
 */
final class SafeVoTable extends DefaultHandler {
    private static final int MOST_FIELDS = 1000;
    private static final long MOST_CHARACTERS = 10_000;
    private static final int DEEPEST = 100;

    private final String name;
    private int depth;
    private int fields;

    private SafeVoTable(String name) {
        this.name = name;
    }

    /** Opens the bytes anew. */
    interface Bytes {
        InputStream open() throws IOException;
    }

    /**
     * Looks a file through.
     *
     * @throws BadInputException naming it, if it is no XML or holds what is not taken
     */
    static void check(String name, Bytes bytes) {
        try (InputStream in = bytes.open()) {
            parser().parse(new InputSource(in), new SafeVoTable(name));
        } catch (SAXParseException e) {
            String why = String.valueOf(e.getMessage());
            throw why.contains("DOCTYPE")
                    ? new BadInputException(
                            name,
                            "declares a document type",
                            "a VOTable without one: it may name files to be fetched",
                            e)
                    : new BadInputException(
                            name + " line " + e.getLineNumber(), "is no well-formed XML (" + why + ")", "a VOTable", e);
        } catch (SAXException | IOException e) {
            throw new BadInputException(name, "cannot be read as XML (" + e.getMessage() + ")", "a VOTable", e);
        } catch (ParserConfigurationException e) {
            throw new IllegalStateException("this Java cannot read XML without fetching what it names", e);
        }
    }

    private static SAXParser parser() throws ParserConfigurationException, SAXException {
        // The one that comes with Java, whatever lies on the class path: its features are known.
        SAXParserFactory factory = SAXParserFactory.newDefaultInstance();
        factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
        factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
        factory.setFeature("http://xml.org/sax/features/external-general-entities", false);
        factory.setFeature("http://xml.org/sax/features/external-parameter-entities", false);
        factory.setXIncludeAware(false);
        return factory.newSAXParser();
    }

    @Override
    public InputSource resolveEntity(String publicId, String systemId) {
        return new InputSource(
                new StringReader("")); // never reached without a document type; nothing is fetched here either
    }

    @Override
    public void startElement(String uri, String localName, String qualified, Attributes attributes) {
        if (++depth > DEEPEST) {
            throw bad("is nested more than " + DEEPEST + " deep", "a VOTable");
        }
        String element = qualified.replaceFirst(".*:", "").toUpperCase(Locale.ROOT);
        switch (element) {
            case "STREAM" -> {
                if (attributes.getValue("href") != null) {
                    throw bad("has its rows elsewhere (STREAM href)", "a VOTable that holds its rows itself");
                }
            }
            case "FITS" -> throw bad("holds a FITS file", "that FITS file itself");
            case "FIELD" -> field(attributes);
            default -> {
                return;
            }
        }
    }

    private void field(Attributes attributes) {
        if (++fields > MOST_FIELDS) {
            throw bad("has more than " + MOST_FIELDS + " columns", "a table with fewer");
        }
        String size = attributes.getValue("arraysize");
        double values = 1;
        for (String part : size == null ? new String[0] : size.split("[x*]+")) {
            try {
                values *= part.isBlank() ? 1 : Double.parseDouble(part);
            } catch (NumberFormatException e) {
                throw bad("has a column with arraysize \"" + size + "\"", "a number, or * for any");
            }
        }
        if (!(values >= 0 && values <= MOST_CHARACTERS)) {
            throw bad("has a column with arraysize " + size, "at most " + MOST_CHARACTERS + " values in a cell");
        }
    }

    @Override
    public void endElement(String uri, String localName, String qualified) {
        depth--;
    }

    @Override
    public void error(SAXParseException e) {
        // Errors of validity: no document type, so nothing to be valid by.
    }

    private BadInputException bad(String found, String expected) {
        return new BadInputException(name, found, expected);
    }
}
