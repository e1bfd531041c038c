package app.ironside.desk.darkroom;

import app.ironside.desk.parts.Words;
import app.ironside.judge.Grade;
import java.time.Instant;
import java.util.function.ToDoubleFunction;

/** What lights can be charted and sorted by. */
enum SubMeasure {
    WEIGHT("what it adds, %", "%.0f", g -> 100 * g.weight()),
    LIGHT("light of its stars, % of the best", "%.0f", g -> 100 * g.transparency()),
    SIZE("star size, px", "%.2f", g -> g.sub().fwhmPx() > 0 ? g.sub().fwhmPx() : Double.NaN),
    LONG("eccentricity", "%.2f", g -> g.sub().fwhmPx() > 0 ? g.sub().eccentricity() : Double.NaN),
    STARS("stars", "%.0f", g -> g.sub().stars()),
    NOISE("noise of the sky, ADU", "%.1f", g -> g.sub().noiseAdu()),
    SKY("background, ADU", "%.0f", g -> g.sub().backgroundAdu()),
    ALTITUDE("altitude, °", "%.0f", g -> g.sub().altitudeDeg().orElse(Double.NaN)),
    TIME("time", "%.0f", g -> g.sub()
            .time()
            .map(Instant::getEpochSecond)
            .map(Long::doubleValue)
            .orElse(Double.NaN));

    private final String words;
    private final String format;
    private final ToDoubleFunction<Grade> value;

    SubMeasure(String words, String format, ToDoubleFunction<Grade> value) {
        this.words = words;
        this.format = format;
        this.value = value;
    }

    /** Of a light; NaN where it is not known. */
    double of(Grade grade) {
        return value.applyAsDouble(grade);
    }

    String words(double of) {
        return Words.format(format, of);
    }

    @Override
    public String toString() {
        return words;
    }
}
