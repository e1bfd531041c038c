package app.ironside.wiring;

import app.ironside.JsonText;
import app.ironside.image.AtomicFile;
import app.ironside.sim.FaultTruth;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;

/** What was set to go wrong in a rehearsal, beside its journal: what a diagnosis is scored against, and never reads. */
final class TruthFile {
    static final String NAME = "truth.json";

    private TruthFile() {}

    /** Nothing is written where nothing goes wrong. */
    static void write(Path folder, List<FaultTruth> faults) {
        if (faults.isEmpty()) {
            return;
        }
        ArrayNode list = JsonNodeFactory.instance.arrayNode();
        for (FaultTruth fault : faults) {
            list.addObject()
                    .put("kind", fault.kind().word())
                    .put("from", fault.from().toString())
                    .put("until", fault.until().toString())
                    .put("strength", fault.force());
        }
        AtomicFile.write(
                folder.resolve(NAME), out -> out.write(JsonText.write(list).getBytes(StandardCharsets.UTF_8)));
    }
}
