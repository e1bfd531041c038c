package app.ironside.desk.night;

import app.ironside.guide.GuideSample;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * The night up to one moment: what every screen shows. In a live night the moment is now; dragged, it is any other.
 *
 * @param night how it stood
 * @param guiding all guide exposures of the night, oldest first
 */
public record Moment(Instant time, boolean live, NightState night, List<GuideSample> guiding) {
    /** The chosen event if it is of a kind, else the last of that kind. */
    public <T extends NightEvent> Optional<T> evidence(Optional<NightEvent> chosen, Class<T> kind) {
        return chosen.filter(kind::isInstance).map(kind::cast).or(() -> night.last(kind));
    }

    /** The last event of a station that has a file to show. */
    public Optional<NightEvent> lastWithFile(Stage station) {
        return night.events().stream()
                .filter(e -> e.station() == station && NightState.fileOf(e).isPresent())
                .reduce((a, b) -> b);
    }

    /** Guide exposures within a span, both ends included. */
    public List<GuideSample> guided(Interval span) {
        return guiding.subList(firstAt(span.from()), firstAt(span.until().plusNanos(1)));
    }

    private int firstAt(Instant from) {
        int low = 0;
        int high = guiding.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (guiding.get(middle).time().isBefore(from)) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }
}
