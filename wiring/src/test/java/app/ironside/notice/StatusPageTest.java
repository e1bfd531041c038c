package app.ironside.notice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** The page for a telephone: what it shows, and what it makes of those who ask for more. */
class StatusPageTest {
    private static final String TOKEN = "0123456789abcdef01234567";
    private static final StatusPage.Status STATUS = new StatusPage.Status(
            "Colle Sorbo  Wren",
            "22:50",
            List.of(new StatusPage.Status.Figure("69 good", "of 181 planned")),
            List.of("Dew on the optics", "88 % sure", "<b>60 %</b> of the light is left."),
            List.of("22:49  Sub 73 L 180 s of M 33 kept."));

    private final StatusPage page = new StatusPage(0, TOKEN, () -> Optional.of(STATUS), Duration.ofMillis(800));
    private final HttpClient client =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

    @AfterEach
    void end() {
        page.close();
    }

    private HttpResponse<String> ask(String method, String path) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://localhost:" + page.port() + path))
                .method(method, HttpRequest.BodyPublishers.noBody())
                .timeout(Duration.ofSeconds(20))
                .build();
        return client.send(request, HttpResponse.BodyHandlers.ofString());
    }

    @Test
    void showsTheNightRedOnBlackAndEscapesWords() throws Exception {
        HttpResponse<String> answer = ask("GET", "/" + TOKEN);
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body())
                .contains("69 good", "Dew on the optics", "&lt;b&gt;60 %&lt;/b&gt;", "background:#000")
                .doesNotContain("<form", "<script", "<b>60");
        assertThat(answer.headers().firstValue("Content-Security-Policy"))
                .hasValueSatisfying(p -> assertThat(p).contains("default-src 'none'"));
        assertThat(answer.headers().firstValue("Server")).isEmpty();
    }

    /** It never commands, and without its token it tells nothing. */
    @Test
    void answersNothingElse() throws Exception {
        for (String method : List.of("POST", "PUT", "DELETE", "OPTIONS", "TRACE")) {
            assertThat(ask(method, "/" + TOKEN).statusCode()).as(method).isEqualTo(405);
        }
        for (String path :
                List.of("/", "/0123", "/" + TOKEN + "/x", "/../" + TOKEN, "/%2e%2e/etc", "/" + "a".repeat(3000))) {
            HttpResponse<String> answer = ask("GET", path);
            assertThat(answer.statusCode()).as(path).isBetween(400, 499);
            assertThat(answer.body()).as(path).doesNotContain("Colle Sorbo", "jetty");
        }
    }

    private String raw(String request) throws IOException {
        try (Socket socket = new Socket("localhost", page.port())) {
            socket.setSoTimeout(15_000);
            socket.getOutputStream().write(request.getBytes(StandardCharsets.ISO_8859_1));
            socket.getOutputStream().flush();
            socket.shutdownOutput();
            InputStream in = socket.getInputStream();
            return new String(in.readAllBytes(), StandardCharsets.ISO_8859_1);
        }
    }

    @Test
    void hostileRequestsAreRefusedAndThePageGoesOn() throws Exception {
        List<String> requests = List.of(
                "\0\0\0\0\r\n\r\n",
                "GET\r\n\r\n",
                "GET /" + "x".repeat(200_000) + " HTTP/1.1\r\nHost: a\r\n\r\n",
                "GET /" + TOKEN + " HTTP/1.1\r\n" + "X: ".repeat(20_000) + "\r\n\r\n",
                "GET /" + TOKEN + " HTTP/9.9\r\nHost: a\r\n\r\n",
                "GET /" + TOKEN + " HTTP/1.1\r\nHost: a\r\nContent-Length: -5\r\n\r\n",
                "POST /" + TOKEN + " HTTP/1.1\r\nHost: a\r\nTransfer-Encoding: chunked\r\n\r\nZZZ\r\n");
        for (String request : requests) {
            String answer;
            try {
                answer = raw(request);
            } catch (IOException cutOff) {
                answer = "";
            }
            assertThat(answer).doesNotContain("69 good");
        }
        assertThat(ask("GET", "/" + TOKEN).statusCode()).isEqualTo(200);
    }

    /** Many who hold the line take no room from who comes after them. */
    @Test
    void manyIdleConnectionsAreBounded() throws Exception {
        List<Socket> idle = new ArrayList<>();
        int threads = Thread.activeCount();
        for (int i = 0; i < 120; i++) {
            Socket socket = new Socket("localhost", page.port());
            socket.getOutputStream().write("GET /".getBytes(StandardCharsets.ISO_8859_1));
            idle.add(socket);
        }
        assertThat(Thread.activeCount() - threads).isLessThan(20);
        for (Socket socket : idle) {
            socket.close();
        }
        assertThat(ask("GET", "/" + TOKEN).statusCode()).isEqualTo(200);
    }

    @Test
    void aPortThatIsTakenIsSaid() {
        assertThatThrownBy(() -> new StatusPage(page.port(), TOKEN, Optional::empty))
                .isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("port " + page.port())
                .hasMessageContaining("another port");
    }

    @Test
    void withoutANightItSaysSo() {
        assertThat(StatusPage.html(Optional.empty())).contains("No night runs.");
    }
}
