package app.ironside.notice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;

import app.ironside.BadInputException;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.Trouble;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** How alerts reach a person. */
class HeraldTest {
    private static final Herald.Whose WHOSE = new Herald.Whose("2026-11-14", "Colle Sorbo", "Wren");
    private static final long SOON = 10_000;

    @TempDir
    Path folder;

    private final Herald.Ways ways = mock(Herald.Ways.class);
    private final BlockingQueue<String> complaints = new LinkedBlockingQueue<>();

    private static AlertRaised alert(boolean wake) {
        return new AlertRaised(Instant.parse("2026-11-14T22:00:00Z"), "59 % of the light is left.", Trouble.DEW, wake);
    }

    @Test
    void aToneOnlyWakesAndANotificationTellsOfAll() {
        try (Herald herald = new Herald(ways, complaints::add)) {
            herald.tell(alert(false), WHOSE, Notices.USUAL.withSystem(true));
            verify(ways, timeout(SOON)).note("To note: dew on the optics", "59 % of the light is left.");
            verify(ways, never()).tone();
            herald.tell(alert(true), WHOSE, Notices.USUAL);
            verify(ways, timeout(SOON)).tone();
        }
    }

    /** A program of the person's own gets the alert as a line of JSON on its standard input. */
    @Test
    void anOwnProgramGetsJson() throws Exception {
        Path out = folder.resolve("alert.json");
        List<String> command = List.of("/bin/sh", "-c", "cat > \"$0\"", out.toString());
        try (Herald herald = new Herald(ways, complaints::add)) {
            herald.tell(alert(true), WHOSE, Notices.USUAL.withSound(false).withCommand(command));
        }
        JsonNode told = new ObjectMapper().readTree(Files.readString(out));
        assertThat(told.get("severity").asText()).isEqualTo("wake");
        assertThat(told.get("cause").asText()).isEqualTo("dew");
        assertThat(told.get("kit").asText()).isEqualTo("Wren");
        assertThat(told.get("remedy").asText()).isEqualTo(Trouble.DEW.remedy());
        assertThat(complaints).isEmpty();
    }

    @Test
    void whatFailsIsSaidAndTheOtherWaysAreGone() throws Exception {
        doThrow(new IllegalStateException("no loudspeaker")).when(ways).tone();
        try (Herald herald = new Herald(ways, complaints::add)) {
            herald.tell(alert(true), WHOSE, Notices.USUAL.withSystem(true).withCommand(List.of("/no/such/program")));
            assertThat(complaints.poll(SOON, TimeUnit.MILLISECONDS))
                    .isEqualTo("You could not be told by the tone: no loudspeaker");
            assertThat(complaints.poll(SOON, TimeUnit.MILLISECONDS))
                    .contains("/no/such/program", "could not be started");
        }
        verify(ways).note(contains("dew"), any());
    }

    @Test
    void aProgramThatHangsOrFailsIsEnded() {
        assertThatThrownBy(() -> OwnCommand.run(List.of("/bin/sh", "-c", "exit 3"), "{}", Duration.ofSeconds(10)))
                .hasMessageContaining("ended with 3");
        assertThatThrownBy(() -> OwnCommand.run(List.of("/bin/sleep", "60"), "{}", Duration.ofMillis(200)))
                .hasMessageContaining("still running");
    }

    /** Words of a night never become part of a script. */
    @Test
    void notificationsAreArgumentsOnEverySystem() {
        String evil = "\"; rm -rf / #";
        for (String system : List.of("Linux", "Mac OS X", "Windows 11")) {
            List<String> command = MachineWays.command(system, "title", evil);
            assertThat(command.get(command.size() - 1)).endsWith(evil);
            assertThat(command.subList(0, command.size() - 1)).noneMatch(part -> part.contains("rm -rf"));
        }
        assertThat(MachineWays.samples(660)).hasSize(2 * 6174);
    }

    @Test
    void wishesAreKeptAndDamagedOnesNamed() throws Exception {
        assertThat(Notices.in(folder)).isEqualTo(Notices.USUAL);
        Notices wished = Notices.USUAL.withPage(true).withCommand(List.of("tell me", "now"));
        assertThat(wished.token()).hasSize(24);
        wished.keep(folder);
        assertThat(Notices.in(folder)).isEqualTo(wished);
        assertThat(wished.withPage(false).withPage(true).token())
                .as("the address stays")
                .isEqualTo(wished.token());
        Files.writeString(folder.resolve("notices.json"), "{\"sound\": 3");
        assertThatThrownBy(() -> Notices.in(folder))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("notices.json");
        assertThatThrownBy(() -> Notices.USUAL.withPort(80)).hasMessageContaining("1024 to 65535");
    }
}
