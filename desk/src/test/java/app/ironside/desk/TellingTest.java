package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.journal.Stage;
import app.ironside.notice.Notices;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.application.Platform;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** How the night tells a person, set in the real window; the page is fetched as a telephone would. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class TellingTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.RUN, 0));
    }

    private <T> T node(Class<T> kind, String id) {
        return on(() -> kind.cast(desk.lookup(id)));
    }

    private void fire(String id) {
        on(() -> {
            ((ButtonBase) desk.lookup(id)).fire();
            return true;
        });
    }

    private void write(String id, String text) {
        on(() -> {
            TextField field = (TextField) desk.lookup(id);
            field.setText(text);
            field.getOnAction().handle(null);
            return true;
        });
    }

    private String address() {
        return node(Label.class, "#telling-address").getText();
    }

    private static int freePort() throws Exception {
        try (ServerSocket socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }

    /** What nobody catches is told on the desk, and written down with where it happened. */
    @Test
    void aFaultOfIronsideItselfIsToldAndWrittenDown() throws Exception {
        Thread.UncaughtExceptionHandler before = Thread.getDefaultUncaughtExceptionHandler();
        try {
            DeskApp.watchForFaults(desk, folder);
            Platform.runLater(() -> {
                throw new IllegalStateException("a block that is not there");
            });
            until("the fault is told", d -> text("#status").contains("a block that is not there"));
            assertThat(text("#status")).contains("the report is in").contains("not touched");
            try (Stream<Path> files = Files.list(folder.resolve("reports"))) {
                assertThat(files.toList()).singleElement().satisfies(f -> assertThat(Files.readString(f))
                        .contains("IllegalStateException: a block that is not there"));
            }
        } finally {
            Thread.setDefaultUncaughtExceptionHandler(before);
            BackgroundWork.report(Optional.empty());
        }
    }

    @Test
    void thePageIsServedOnlyWhenAskedForAndSaysWhatTheDeskSays() throws Exception {
        press(KeyCode.Y);
        until("the pane", d -> d.lookup("#telling") != null);
        assertThat(node(Label.class, "#telling-address").getText()).isEqualTo("off");
        write("#telling-port", "80");
        assertThat(on(() -> desk.lookupAll(".warning").stream()
                        .filter(Label.class::isInstance)
                        .map(l -> ((Label) l).getText())
                        .toList()))
                .anyMatch(t -> t.contains("1024 to 65535"));
        int port = freePort();
        write("#telling-port", String.valueOf(port));
        fire("#telling-page");
        until("the page", d -> address().startsWith("http://"));
        String address = address();
        assertThat(address).startsWith("http://").contains(":" + port + "/");
        write("#telling-command", "/bin/true \"two words\"");
        until("the command", d -> !Notices.in(folder).command().isEmpty());
        assertThat(Notices.in(folder).command()).containsExactly("/bin/true", "two words");
        URI here = URI.create("http://localhost:" + port + address.substring(address.lastIndexOf('/')));
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(HttpRequest.newBuilder(here).build(), HttpResponse.BodyHandlers.ofString());
        assertThat(answer.body()).contains("No night runs.");
        fire("#telling-page");
        until("no page", d -> address().equals("off"));
        assertThat(Notices.in(folder).page()).isFalse();
        fire("#telling-done");
        until("no pane", d -> d.lookup("#telling") == null);
    }

    @Test
    void wordsInQuotesAreOne() {
        assertThat(TellingPane.words("  send \"two words\"  x ")).containsExactly("send", "two words", "x");
        assertThat(TellingPane.words("")).isEmpty();
    }
}
