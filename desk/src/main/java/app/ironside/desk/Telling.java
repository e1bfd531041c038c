package app.ironside.desk;

import app.ironside.desk.night.Moment;
import app.ironside.desk.night.RunGlance;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.Words;
import app.ironside.desk.session.Looking;
import app.ironside.desk.session.RunningNight;
import app.ironside.desk.session.ShownNight;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Trouble;
import app.ironside.notice.Herald;
import app.ironside.notice.Notices;
import app.ironside.notice.StatusPage;
import java.net.Inet4Address;
import java.net.InetAddress;
import java.net.NetworkInterface;
import java.net.SocketException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * How alerts leave the desk, and the page that a telephone shows. Only a real night calls out by itself: a rehearsal's faults are not worth a
 * person's sleep, and its alerts stand on the desk.
 */
final class Telling implements AutoCloseable {
    private static final int LATEST = 5;

    private final Path folder;
    private final Herald herald;
    private final BackgroundWork work = new BackgroundWork("alerts");

    /** The wishes, and the page that is served by them; both change together. */
    private volatile Served served = new Served(Notices.USUAL, Optional.empty());

    private record Served(Notices how, Optional<StatusPage> page) {}

    private volatile Optional<StatusPage.Status> status = Optional.empty();
    private Optional<RunningNight> followed = Optional.empty();

    /** The night that runs, also while another is looked at. */
    private Optional<ShownNight> runs = Optional.empty();

    private int heard;

    /**
     * @param say is told in a sentence what failed; on any thread
     */
    Telling(Path folder, Herald.Ways ways, Consumer<String> say) {
        this.folder = folder;
        this.herald = new Herald(ways, say);
        work.ask(progress -> serve(Notices.in(folder))).failed(say).then(now -> {});
    }

    Notices notices() {
        return served.how();
    }

    /**
     * Keeps and follows other wishes, beside the interface.
     *
     * @param then told when they are followed, with why not where they cannot be; empty else
     */
    void set(Notices next, Consumer<String> then) {
        work.ask(progress -> {
                    next.keep(folder);
                    return serve(next);
                })
                .failed(then)
                .then(now -> then.accept(""));
    }

    /** Where the page is; empty while it is not served. */
    Optional<String> address() {
        Served now = served;
        return now.page()
                .map(p -> "http://" + host() + ":" + p.port() + "/" + now.how().token());
    }

    /** This machine's place on the local network, without asking anybody for names; "localhost" without a network. */
    private static String host() {
        try {
            return NetworkInterface.networkInterfaces()
                    .flatMap(NetworkInterface::inetAddresses)
                    .filter(a -> a instanceof Inet4Address && a.isSiteLocalAddress())
                    .map(InetAddress::getHostAddress)
                    .findFirst()
                    .orElse("localhost");
        } catch (SocketException e) {
            return "localhost";
        }
    }

    private Notices serve(Notices how) {
        served.page().ifPresent(StatusPage::close);
        served = new Served(how, Optional.empty());
        if (how.page()) {
            served = new Served(how, Optional.of(new StatusPage(how.port(), how.token(), () -> status)));
        }
        return how;
    }

    /** What the running night has to tell leaves the desk, whatever is looked at. */
    void follow(Optional<RunningNight> running, Looking looking) {
        if (running.isPresent() && looking.isRun()) {
            runs = looking.night();
        }
        if (running.isEmpty() || runs.isEmpty()) {
            followed = Optional.empty();
            status = Optional.empty();
            return;
        }
        RunningNight run = running.get();
        follow(run, runs.get(), new Moment(run.now(), true, run.model().night(), List.of()));
    }

    /** Takes in how a night stands, and tells what is new of a real one. */
    private void follow(RunningNight running, ShownNight night, Moment at) {
        List<AlertRaised> alerts = at.night().all(AlertRaised.class);
        if (followed.filter(running::equals).isEmpty()) {
            followed = Optional.of(running);
            heard = alerts.size(); // a night that goes on after a stop has told of these
        }
        if (running.transport().isEmpty()) {
            for (AlertRaised alert : alerts.subList(Math.min(heard, alerts.size()), alerts.size())) {
                herald.tell(alert, whose(night), served.how());
            }
        }
        heard = alerts.size();
        if (served.page().isPresent()) {
            status = Optional.of(status(night, at));
        }
    }

    /** An alert to try the ways by. */
    void tryIt(ShownNight night) {
        herald.tell(
                new AlertRaised(
                        Instant.now(), "This is how an alert reaches you. Nothing is wrong.", Trouble.DEVICE, true),
                whose(night),
                served.how());
    }

    private static Herald.Whose whose(ShownNight night) {
        return new Herald.Whose(
                night.file().program().date().toString(),
                night.file().site().name(),
                night.file().kit().name());
    }

    private static StatusPage.Status status(ShownNight night, Moment at) {
        RunGlance glance = night.reckoner().glance(at);
        List<NightEvent> events = at.night().events();
        List<String> latest = new ArrayList<>();
        for (int i = events.size() - 1; i >= 0 && latest.size() < LATEST; i--) {
            latest.add(Words.clock(events.get(i).time(), night.file().site().zone()) + "  "
                    + events.get(i).text());
        }
        return new StatusPage.Status(
                night.file().site().name() + "  " + night.file().kit().name(),
                Words.clock(at.time(), night.file().site().zone()),
                glance.figures().stream()
                        .map(f -> new StatusPage.Status.Figure(f.value(), f.name()))
                        .toList(),
                glance.trouble()
                        .map(b -> List.of(b.headline(), b.certainty(), b.seen(), b.rivals(), b.doing(), b.hands()))
                        .orElse(List.of()),
                latest);
    }

    @Override
    public void close() {
        work.close();
        served.page().ifPresent(StatusPage::close);
        served = new Served(served.how(), Optional.empty());
        herald.close();
    }
}
