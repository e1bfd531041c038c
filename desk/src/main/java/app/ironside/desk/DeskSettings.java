package app.ironside.desk;

import app.ironside.image.AtomicFile;
import app.ironside.journal.Stage;
import app.ironside.night.NightControl.GatePolicy;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;

/**
 * What the desk remembers from one opening to the next.
 *
 * @param rate multiple of real time; 0 as fast as it goes
 * @param gates what is done about gates that are not passed; those that are not named: go on, and mark what follows
 * @param textPercent how large everything is drawn; 0 for as it was made
 */
record DeskSettings(
        double width,
        double height,
        Palette palette,
        Stage station,
        double rate,
        Map<Stage, GatePolicy> gates,
        int textPercent) {
    /** A kit that is not proven is asked for; so is an axis that is off, as it can be mended at the telescope only. */
    private static final Map<Stage, GatePolicy> USUAL_GATES =
            Map.of(Stage.READY, GatePolicy.ASK_THEN_PARK, Stage.POLAR, GatePolicy.ASK_THEN_GO_ON);

    DeskSettings {
        gates = gates == null ? USUAL_GATES : Map.copyOf(gates);
    }

    /** With the usual rules for gates. */
    DeskSettings(double width, double height, Palette palette, Stage station, double rate) {
        this(width, height, palette, station, rate, USUAL_GATES, 0);
    }

    static final DeskSettings DEFAULT = new DeskSettings(1280, 800, Palette.DUSK, Stage.RUN, 60);

    private static final String FILE = "desk.json";
    private static final ObjectMapper JSON = new ObjectMapper();

    /** Reads the settings of a data folder; what cannot be read is as new, because nothing is lost by it. */
    static DeskSettings read(Path folder) {
        try {
            DeskSettings read = JSON.readValue(Files.readAllBytes(folder.resolve(FILE)), DeskSettings.class);
            boolean whole =
                    read.palette() != null && read.station() != null && read.width() > 200 && read.height() > 200;
            return whole ? read : DEFAULT;
        } catch (IOException e) {
            return DEFAULT;
        }
    }

    void write(Path folder) {
        AtomicFile.write(folder.resolve(FILE), out -> out.write(JSON.writeValueAsBytes(this)));
    }
}
