package app.ironside.desk;

import app.ironside.desk.night.Moment;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.parts.Words;
import app.ironside.journal.NightEvent;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * The line at the lower edge: the most pressing of what there is to say.
 *
 * @param failure why the night ended early; empty if it did not
 * @param said what was done last; empty if that is over
 * @param elsewhere whether another night runs than the one shown
 * @param noPicture why there is no picture; empty if there is
 * @param lookingBack whether the moment shown is past while a night runs
 */
record StatusLine(String failure, String said, boolean elsewhere, String noPicture, boolean lookingBack) {
    String of(Moment at, Optional<NightEvent> chosen, Optional<NightModel.Doing> doing) {
        if (!failure.isEmpty()) {
            return failure;
        }
        if (!said.isEmpty()) {
            return said;
        }
        if (elsewhere) {
            return "Another night is running. N goes to it.";
        }
        if (!noPicture.isEmpty()) {
            return "No picture: " + noPicture;
        }
        if (lookingBack) {
            return "Looking back. N returns to now."
                    + chosen.map(e -> "   " + e.text()).orElse("");
        }
        return doing.filter(d -> !at.night().ended())
                .map(d -> d.what() + left(d, at.time()))
                .orElseGet(() -> lastOf(at.night().events()));
    }

    private static String lastOf(List<NightEvent> events) {
        return events.isEmpty() ? "" : events.get(events.size() - 1).text();
    }

    private static String left(NightModel.Doing doing, Instant now) {
        Duration gone = Duration.between(doing.since(), now);
        Duration left = doing.about().minus(gone);
        return doing.about().toSeconds() < 3 || left.isNegative() ? "" : "   " + Words.span(left) + " left";
    }
}
