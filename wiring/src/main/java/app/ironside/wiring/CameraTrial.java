package app.ironside.wiring;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What one frame tells of a camera.
 *
 * @param seconds of its exposure, if it tells
 * @param celsius of its sensor, if it tells
 * @param began when it was exposed; put right if the camera's clock is wrong
 * @param level of its middle pixel, by brightness
 * @param mosaic whether it says that its pixels are of several colours
 * @param remarks what the driver noticed
 */
public record CameraTrial(
        int width,
        int height,
        OptionalDouble seconds,
        OptionalDouble celsius,
        Optional<Instant> began,
        double level,
        boolean mosaic,
        List<String> remarks) {
    private static final int SAMPLE = 50_000;

    private static final DateTimeFormatter CLOCK =
            DateTimeFormatter.ofPattern("HH:mm:ss", Locale.ROOT).withZone(ZoneOffset.UTC);

    static CameraTrial of(Frame frame, List<String> remarks) {
        Header header = frame.header();
        return new CameraTrial(
                frame.width(),
                frame.height(),
                header.exposureSeconds(),
                header.number("CCD-TEMP"),
                header.start(),
                Statistics.robust(Statistics.sample(frame, SAMPLE)).centre(),
                header.text("BAYERPAT").isPresent(),
                remarks);
    }

    /** In a sentence, with what it does not tell. */
    public String sentence() {
        List<String> told = new ArrayList<>();
        List<String> untold = new ArrayList<>();
        told.add(width + " x " + height + " px");
        seconds.ifPresentOrElse(
                s -> told.add(String.format(Locale.ROOT, "%s s", s < 1 ? s : (Object) Math.round(s))),
                () -> untold.add("how long it was exposed, so what was asked for is taken"));
        began.ifPresentOrElse(
                t -> told.add("begun " + CLOCK.format(t) + " UTC"),
                () -> untold.add("when it was exposed, so the file's coming is taken"));
        celsius.ifPresentOrElse(
                c -> told.add(String.format(Locale.ROOT, "%.1f °C", c)), () -> untold.add("how warm its sensor is"));
        told.add(String.format(Locale.ROOT, "level %.0f ADU", level));
        if (mosaic) {
            told.add("a mosaic of colours");
        }
        String more = untold.isEmpty() ? "" : " It does not tell " + String.join("; nor ", untold) + ".";
        String noticed = remarks.isEmpty() ? "" : " " + String.join(" ", remarks);
        return "The next frame told me: " + String.join(", ", told) + "." + more + noticed;
    }
}
