package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.journal.NightState;
import app.ironside.journal.PlacementCompared;
import app.ironside.journal.Stage;
import java.util.List;
import java.util.Optional;

/** How well the kit was set down on its marks, as a row. */
final class SetDown {
    private SetDown() {}

    static Optional<Row> row(NightState night, Stage station) {
        return night.all(PlacementCompared.class).stream()
                .filter(p -> p.station() == station)
                .reduce((a, b) -> b)
                .map(p -> new Row("when set down", words(p.nowArcmin(), p.earlierArcmin())));
    }

    private static String words(double now, List<Double> earlier) {
        double least = earlier.stream().mapToDouble(Double::doubleValue).min().orElseThrow();
        double most = earlier.stream().mapToDouble(Double::doubleValue).max().orElseThrow();
        return earlier.size() == 1
                ? Words.format("%.1f′ off; one earlier night %.1f′", now, most)
                : Words.format("%.1f′ off; earlier nights %.1f′ to %.1f′", now, least, most);
    }
}
