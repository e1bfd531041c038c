package app.ironside.notice;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.eclipse.jetty.http.HttpHeader;
import org.eclipse.jetty.http.HttpMethod;
import org.eclipse.jetty.io.Content;
import org.eclipse.jetty.server.ConnectionLimit;
import org.eclipse.jetty.server.Handler;
import org.eclipse.jetty.server.HttpConfiguration;
import org.eclipse.jetty.server.HttpConnectionFactory;
import org.eclipse.jetty.server.Request;
import org.eclipse.jetty.server.Response;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.eclipse.jetty.util.Callback;
import org.eclipse.jetty.util.thread.QueuedThreadPool;

/**
 * A page for a telephone on the local network: how the night stands, red on black. It shows and never commands; without the token in its
 * address it tells nothing, not even that it is there.
 */
public final class StatusPage implements AutoCloseable {
    private static final int MOST_THREADS = 8;
    private static final int MOST_CONNECTIONS = 40;
    private static final Duration LONGEST_IDLE = Duration.ofSeconds(10);
    private static final int MOST_HEADER_BYTES = 4096;
    private static final int REFRESH_SECONDS = 20;

    /**
     * What is shown.
     *
     * @param figures value and name of each
     * @param trouble its lines, the headline first; empty if nothing is wrong
     * @param latest sentences, the newest first
     */
    public record Status(String title, String clock, List<Figure> figures, List<String> trouble, List<String> latest) {
        /** A number with its name. */
        public record Figure(String value, String name) {}

        public Status {
            figures = List.copyOf(figures);
            trouble = List.copyOf(trouble);
            latest = List.copyOf(latest);
        }
    }

    private final Server server;
    private final ServerConnector connector;

    /**
     * Serves at once.
     *
     * @param port 0 for any that is free
     * @param status asked for each request, on the server's threads; empty while no night runs
     * @throws IllegalStateException if the port is taken
     */
    public StatusPage(int port, String token, Supplier<Optional<Status>> status) {
        this(port, token, status, LONGEST_IDLE);
    }

    /**
     * @param idle after which who says nothing is let go
     */
    StatusPage(int port, String token, Supplier<Optional<Status>> status, Duration idle) {
        QueuedThreadPool threads = new QueuedThreadPool(MOST_THREADS);
        threads.setName("status page");
        threads.setDaemon(true);
        server = new Server(threads);
        HttpConfiguration http = new HttpConfiguration();
        http.setSendServerVersion(false);
        http.setRequestHeaderSize(MOST_HEADER_BYTES);
        http.setIdleTimeout(idle.toMillis());
        connector = new ServerConnector(server, 1, 1, new HttpConnectionFactory(http));
        connector.setPort(port);
        connector.setIdleTimeout(idle.toMillis());
        server.setStopTimeout(0);
        server.addConnector(connector);
        server.addBean(new ConnectionLimit(MOST_CONNECTIONS, server));
        server.setHandler(new Answering("/" + token, status));
        server.setErrorHandler((request, response, callback) -> {
            callback.succeeded(); // a wrong address learns nothing
            return true;
        });
        try {
            server.start();
        } catch (Exception e) {
            close();
            throw new IllegalStateException(
                    "The status page cannot be served on port " + port + ": " + e.getMessage()
                            + ". Choose another port.",
                    e);
        }
    }

    /** On which it is served. */
    public int port() {
        return connector.getLocalPort();
    }

    @Override
    public void close() {
        try {
            server.stop();
        } catch (Exception e) {
            throw new IllegalStateException("the status page could not be ended: " + e.getMessage(), e);
        }
    }

    private static final class Answering extends Handler.Abstract {
        private final byte[] path;
        private final Supplier<Optional<Status>> status;

        Answering(String path, Supplier<Optional<Status>> status) {
            this.path = path.getBytes(StandardCharsets.UTF_8);
            this.status = status;
        }

        @Override
        public boolean handle(Request request, Response response, Callback callback) {
            boolean known =
                    MessageDigest.isEqual(Request.getPathInContext(request).getBytes(StandardCharsets.UTF_8), path);
            if (!known) {
                response.setStatus(404);
                callback.succeeded();
                return true;
            }
            if (!HttpMethod.GET.is(request.getMethod())) {
                response.setStatus(405);
                callback.succeeded();
                return true;
            }
            response.getHeaders().put(HttpHeader.CONTENT_TYPE, "text/html; charset=utf-8");
            response.getHeaders().put(HttpHeader.CACHE_CONTROL, "no-store");
            response.getHeaders().put("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'");
            response.getHeaders().put("X-Content-Type-Options", "nosniff");
            response.getHeaders().put("Referrer-Policy", "no-referrer");
            Content.Sink.write(response, true, html(status.get()), callback);
            return true;
        }
    }

    static String html(Optional<Status> now) {
        StringBuilder page = new StringBuilder("<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\">")
                .append("<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">")
                .append("<meta http-equiv=\"refresh\" content=\"")
                .append(REFRESH_SECONDS)
                .append("\"><title>Ironside</title><style>")
                .append("body{background:#000;color:#e40000;font:18px sans-serif;margin:16px}")
                .append("h1{font-size:20px;margin:0 0 12px}b{font-size:34px;display:block}")
                .append("p{margin:0 0 10px}.t{border:3px solid #ff0000;padding:10px;margin:0 0 14px}")
                .append(".d{color:#c40000}</style></head><body>");
        if (now.isEmpty()) {
            return page.append("<h1>No night runs.</h1></body></html>").toString();
        }
        Status s = now.get();
        page.append("<h1>")
                .append(text(s.title()))
                .append("</h1><p><b>")
                .append(text(s.clock()))
                .append("</b></p>");
        if (!s.trouble().isEmpty()) {
            page.append("<div class=\"t\"><p><b>")
                    .append(text(s.trouble().get(0)))
                    .append("</b></p>");
            s.trouble().stream().skip(1).filter(line -> !line.isBlank()).forEach(line -> page.append("<p>")
                    .append(text(line))
                    .append("</p>"));
            page.append("</div>");
        }
        s.figures().forEach(f -> page.append("<p><b>")
                .append(text(f.value()))
                .append("</b>")
                .append(text(f.name()))
                .append("</p>"));
        s.latest()
                .forEach(line ->
                        page.append("<p class=\"d\">").append(text(line)).append("</p>"));
        return page.append("</body></html>").toString();
    }

    private static String text(String words) {
        return words.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\"", "&quot;");
    }
}
