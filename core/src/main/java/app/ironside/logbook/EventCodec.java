package app.ironside.logbook;

import app.ironside.guide.GuideSample;
import app.ironside.image.Header;
import app.ironside.journal.AirMeasured;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.AxisDoubted;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.CalibrationTaken;
import app.ironside.journal.CameraWarmed;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.Dithered;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusExpected;
import app.ironside.journal.FocusPoint;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FocuserMeasured;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.GuideCameraLooked;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuiderSet;
import app.ironside.journal.GuidingCompared;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.HeatersSwitched;
import app.ironside.journal.KnobsTurned;
import app.ironside.journal.LengthsTried;
import app.ironside.journal.LookedElsewhere;
import app.ironside.journal.MasterMade;
import app.ironside.journal.MountParked;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightResumed;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Noted;
import app.ironside.journal.OffsetsMeasured;
import app.ironside.journal.PlacementCompared;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Reacted;
import app.ironside.journal.SkyTested;
import app.ironside.journal.StackMade;
import app.ironside.journal.StageBegan;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubRegraded;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.journal.TargetLeft;
import app.ironside.journal.TroubleOver;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.UnguidedWatched;
import app.ironside.journal.Unknown;
import app.ironside.solve.Wcs;
import com.fasterxml.jackson.annotation.JsonAutoDetect;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.Nulls;
import com.fasterxml.jackson.annotation.PropertyAccessor;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonDeserializer;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.JsonSerializer;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Events to and from the logbook's rows: a kind's name, a version, and the facts as JSON. Older versions are read through
 * {@link FirstFacts}; what cannot be read is kept whole as {@link Unknown}.
 */
public final class EventCodec {
    static final int VERSION = 2;

    /** The names stand in every logbook there is: they stay when a class is renamed. */
    private static final Map<String, Class<? extends NightEvent>> KINDS = Map.ofEntries(
            Map.entry("NIGHT_STARTED", NightStarted.class),
            Map.entry("NIGHT_RESUMED", NightResumed.class),
            Map.entry("NIGHT_ENDED", NightEnded.class),
            Map.entry("PLAN", BlockPlanned.class),
            Map.entry("STAGE", StageBegan.class),
            Map.entry("GATE", GateMeasured.class),
            Map.entry("DEVICE", StepProven.class),
            Map.entry("FOCUS", FocusSwept.class),
            Map.entry("POLAR", AxisMeasured.class),
            Map.entry("KNOBS", KnobsTurned.class),
            Map.entry("SOLVE", FrameSolved.class),
            Map.entry("CENTRED", TargetCentred.class),
            Map.entry("GUIDE_CALIBRATED", GuiderCalibrated.class),
            Map.entry("GUIDE_SETTLED", GuidingProven.class),
            Map.entry("GUIDER_SET", GuiderSet.class),
            Map.entry("GUIDE_CAMERA", GuideCameraLooked.class),
            Map.entry("UNGUIDED", UnguidedWatched.class),
            Map.entry("GUIDING_COMPARED", GuidingCompared.class),
            Map.entry("OFFSETS", OffsetsMeasured.class),
            Map.entry("FOCUS_EXPECTED", FocusExpected.class),
            Map.entry("FOCUS_POINT", FocusPoint.class),
            Map.entry("FOCUSER", FocuserMeasured.class),
            Map.entry("DITHER", Dithered.class),
            Map.entry("SUB", SubTaken.class),
            Map.entry("REGRADED", SubRegraded.class),
            Map.entry("FLIP", Flipped.class),
            Map.entry("FAULT", FaultTold.class),
            Map.entry("PARKED", MountParked.class),
            Map.entry("WARMED", CameraWarmed.class),
            Map.entry("CALIBRATION", CalibrationTaken.class),
            Map.entry("MASTER", MasterMade.class),
            Map.entry("STACK", StackMade.class),
            Map.entry("AIR", AirMeasured.class),
            Map.entry("AXIS_DOUBTED", AxisDoubted.class),
            Map.entry("PLACEMENT", PlacementCompared.class),
            Map.entry("HEATERS", HeatersSwitched.class),
            Map.entry("COMMAND", CommandTaken.class),
            Map.entry("OVERRULED", GateOverruled.class),
            Map.entry("REVISED", ProgramRevised.class),
            Map.entry("TROUBLE", TroubleSeen.class),
            Map.entry("TROUBLE_OVER", TroubleOver.class),
            Map.entry("ALERT", AlertRaised.class),
            Map.entry("LOOKED_ELSEWHERE", LookedElsewhere.class),
            Map.entry("NOTED", Noted.class),
            Map.entry("SKY_TESTED", SkyTested.class),
            Map.entry("LENGTHS", LengthsTried.class),
            Map.entry("LEFT", TargetLeft.class),
            Map.entry("REACTED", Reacted.class));

    private static final Map<Class<?>, String> NAMES =
            KINDS.entrySet().stream().collect(Collectors.toMap(Map.Entry::getValue, Map.Entry::getKey));

    private static final ObjectMapper JSON = JsonMapper.builder()
            .addModule(new Jdk8Module())
            .addModule(new JavaTimeModule())
            .addModule(new SimpleModule()
                    .addSerializer(Wcs.class, new WcsWriter())
                    .addDeserializer(Wcs.class, new WcsReader()))
            .addMixIn(Command.class, CommandNames.class)
            // Nights of before subs could be marked say nothing of it.
            .withConfigOverride(Set.class, c -> c.setSetterInfo(JsonSetter.Value.forValueNulls(Nulls.AS_EMPTY)))
            // A record's parts and nothing else: not what its methods make of them.
            .visibility(PropertyAccessor.ALL, JsonAutoDetect.Visibility.NONE)
            .visibility(PropertyAccessor.FIELD, JsonAutoDetect.Visibility.ANY)
            .serializationInclusion(JsonInclude.Include.NON_ABSENT)
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .disable(SerializationFeature.WRITE_DATES_AS_TIMESTAMPS)
            .disable(SerializationFeature.WRITE_DURATIONS_AS_TIMESTAMPS)
            .build();

    private EventCodec() {}

    /** The name under which an event's kind is written: "SUB". */
    public static String kindOf(NightEvent event) {
        return event instanceof Unknown unknown ? unknown.kind() : NAMES.get(event.getClass());
    }

    /** The row of an event. */
    public static EventRow write(NightEvent event) {
        if (event instanceof Unknown u) {
            return new EventRow(u.time(), u.kind(), u.version(), u.text(), u.facts());
        }
        ObjectNode facts = JSON.valueToTree(event);
        facts.remove(List.of("time", "text"));
        return new EventRow(event.time(), kindOf(event), VERSION, event.text(), facts.toString());
    }

    /** The event of a row. */
    public static NightEvent read(EventRow row) {
        Class<? extends NightEvent> kind = KINDS.get(row.kind());
        try {
            if (kind != null && row.version() <= VERSION && JSON.readTree(row.facts()) instanceof ObjectNode written) {
                ObjectNode facts = row.version() == 1 ? FirstFacts.raised(row, written) : written;
                facts.put("time", row.time().toString());
                if (!facts.has("text")) {
                    facts.put("text", row.text());
                }
                return JSON.treeToValue(facts, kind);
            }
        } catch (JsonProcessingException | IllegalArgumentException | ArithmeticException unreadable) {
            // Kept whole below: one row that is damaged or from another version must not close the others.
        }
        return new Unknown(row.time(), row.text(), row.kind(), row.version(), row.facts());
    }

    /** A row as one line of JSON, for a journal that leaves the logbook. */
    static String line(EventRow row) {
        ObjectNode line = JSON.createObjectNode();
        line.put("time", row.time().toString());
        line.put("kind", row.kind());
        line.put("version", row.version());
        line.put("text", row.text());
        try {
            line.set("facts", JSON.readTree(row.facts()));
        } catch (JsonProcessingException damaged) {
            line.put("facts", row.facts());
        }
        return line.toString();
    }

    /** Whether a row is one that was written whole, of whatever version. */
    static boolean isWhole(EventRow row) {
        try {
            return row.kind() != null
                    && row.text() != null
                    && row.facts() != null
                    && row.version() >= 1
                    && JSON.readTree(row.facts()).isObject();
        } catch (JsonProcessingException cut) {
            return false;
        }
    }

    /** Guide exposures that events of the first version carry within them; later ones have a table of their own. */
    static List<GuideSample> samplesWithin(EventRow row) {
        try {
            return row.version() == 1 && JSON.readTree(row.facts()) instanceof ObjectNode facts
                    ? FirstFacts.samples(row.time(), facts)
                    : List.of();
        } catch (JsonProcessingException unreadable) {
            return List.of();
        }
    }

    /** The names by which commands are written. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "name")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Command.Hold.class, name = "hold"),
        @JsonSubTypes.Type(value = Command.GoOn.class, name = "go-on"),
        @JsonSubTypes.Type(value = Command.EndSub.class, name = "end-sub"),
        @JsonSubTypes.Type(value = Command.SkipTarget.class, name = "skip-target"),
        @JsonSubTypes.Type(value = Command.SkipFilter.class, name = "skip-filter"),
        @JsonSubTypes.Type(value = Command.OneMore.class, name = "one-more"),
        @JsonSubTypes.Type(value = Command.Extend.class, name = "extend"),
        @JsonSubTypes.Type(value = Command.Refocus.class, name = "refocus"),
        @JsonSubTypes.Type(value = Command.Recentre.class, name = "recentre"),
        @JsonSubTypes.Type(value = Command.CalibrateGuider.class, name = "calibrate-guider"),
        @JsonSubTypes.Type(value = Command.StopGuiding.class, name = "stop-guiding"),
        @JsonSubTypes.Type(value = Command.StartGuiding.class, name = "start-guiding"),
        @JsonSubTypes.Type(value = Command.DitherNow.class, name = "dither"),
        @JsonSubTypes.Type(value = Command.TryLengths.class, name = "try-lengths"),
        @JsonSubTypes.Type(value = Command.GuideBy.class, name = "guide-by"),
        @JsonSubTypes.Type(value = Command.PickGuideStar.class, name = "pick-guide-star"),
        @JsonSubTypes.Type(value = Command.WatchUnguided.class, name = "watch-unguided"),
        @JsonSubTypes.Type(value = Command.CompareGuiding.class, name = "compare-guiding"),
        @JsonSubTypes.Type(value = Command.MeasureOffsets.class, name = "measure-offsets"),
        @JsonSubTypes.Type(value = Command.MeasureFocuser.class, name = "measure-focuser"),
        @JsonSubTypes.Type(value = Command.Overrule.class, name = "overrule"),
        @JsonSubTypes.Type(value = Command.Replan.class, name = "replan"),
        @JsonSubTypes.Type(value = Command.GiveVerdicts.class, name = "verdicts"),
        @JsonSubTypes.Type(value = Command.Note.class, name = "note"),
        @JsonSubTypes.Type(value = Command.EndNight.class, name = "end-night"),
        @JsonSubTypes.Type(value = Command.ParkNow.class, name = "park-now")
    })
    private interface CommandNames {}

    private static final class WcsWriter extends JsonSerializer<Wcs> {
        @Override
        public void serialize(Wcs wcs, JsonGenerator out, SerializerProvider provider) throws IOException {
            out.writePOJO(wcs.toHeader().values());
        }
    }

    private static final class WcsReader extends JsonDeserializer<Wcs> {
        @Override
        public Wcs deserialize(JsonParser in, DeserializationContext context) throws IOException {
            JsonNode cards = in.readValueAsTree();
            Header header = Header.EMPTY;
            for (Map.Entry<String, JsonNode> card : cards.properties()) {
                JsonNode value = card.getValue();
                header = header.with(
                        card.getKey(),
                        value.isTextual()
                                ? value.asText()
                                : value.isIntegralNumber() ? (Object) value.asLong() : (Object) value.asDouble());
            }
            return Wcs.from(header)
                    .orElseThrow(() -> context.weirdStringException(cards.toString(), Wcs.class, "no tangent plane"));
        }
    }
}
