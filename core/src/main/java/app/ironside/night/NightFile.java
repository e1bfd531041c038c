package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.kit.Kit;
import app.ironside.plan.Calibrations;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizon;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Site;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * A night as an open JSON file: site, kit, program, and for rehearsals the truth of the observatory.
 *
 * @param observatory settings of a simulated observatory, as they stand in the file; empty object if absent
 * @param text the file as it was read
 */
public record NightFile(Site site, Kit kit, Program program, JsonNode observatory, String text) {
    private static final ObjectMapper JSON = JsonMapper.builder()
            .addModule(new Jdk8Module())
            .addModule(new JavaTimeModule())
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .build();

    private record SiteEntry(
            String name,
            double latDeg,
            double lonDeg,
            double elevationM,
            String zone,
            double skyMagPerArcsec2,
            double[][] horizon) {}

    private record TargetEntry(
            String name,
            Optional<Double> raDeg,
            Optional<Double> decDeg,
            List<String> filters,
            Optional<Integer> subsPerFilter,
            double subSeconds,
            Optional<LocalTime> from,
            Optional<LocalTime> until,
            Optional<Integer> mostSubs) {}

    private record ProgramEntry(
            List<TargetEntry> targets,
            double coolToC,
            int ditherEvery,
            double ditherArcsec,
            double refocusAfterC,
            double centreWithinArcsec,
            double recentreBeyondArcsec,
            double minimumAltitudeDeg,
            Calibrations calibrations,
            Optional<Integer> fullFramesPerLeg) {}

    private record Entry(LocalDate date, SiteEntry site, Kit kit, ProgramEntry program, JsonNode observatory) {}

    /**
     * Reads a night.
     *
     * @param name for messages, usually the file's
     * @param objects to find targets that are given by name only
     * @throws BadInputException naming the place in the file that is wrong
     */
    public static NightFile parse(String text, String name, DeepSkyCatalogue objects) {
        try {
            Entry entry = JSON.readValue(text, Entry.class);
            require(entry.site(), name, "site");
            require(entry.kit(), name, "kit");
            require(entry.program(), name, "program");
            require(entry.date(), name, "date");
            JsonNode observatory = entry.observatory() == null ? JSON.createObjectNode() : entry.observatory();
            return new NightFile(site(entry.site()), entry.kit(), program(entry, name, objects), observatory, text);
        } catch (JsonProcessingException e) {
            String where = e.getLocation() == null
                    ? name
                    : name + " line " + e.getLocation().getLineNr();
            throw new BadInputException(where, firstLine(e.getOriginalMessage()), "a night file as in examples/", e);
        } catch (IllegalArgumentException | DateTimeException e) {
            throw new BadInputException(name, e.getMessage(), "a night file as in examples/", e);
        }
    }

    private static void require(Object part, String name, String field) {
        if (part == null) {
            throw new BadInputException(name, "has no \"" + field + "\"", "a night file as in examples/");
        }
    }

    private static String firstLine(String message) {
        return message.lines().findFirst().orElse("is not JSON");
    }

    private static Site site(SiteEntry s) {
        double[][] points = s.horizon() == null || s.horizon().length == 0 ? new double[][] {{0, 0}} : s.horizon();
        Horizon horizon = new Horizon(
                Arrays.stream(points).map(p -> new Horizontal(p[0], p[1])).toList());
        return new Site(
                s.name(), s.latDeg(), s.lonDeg(), s.elevationM(), ZoneId.of(s.zone()), s.skyMagPerArcsec2(), horizon);
    }

    private static Program program(Entry entry, String name, DeepSkyCatalogue objects) {
        ProgramEntry p = entry.program();
        List<TargetPlan> targets = p.targets().stream()
                .map(t -> new TargetPlan(
                        t.name(),
                        position(t, name, objects),
                        t.filters(),
                        t.subsPerFilter().orElse(2),
                        t.subSeconds(),
                        t.from(),
                        t.until(),
                        t.mostSubs()))
                .toList();
        for (TargetPlan target : targets) {
            target.filters().forEach(entry.kit()::filterSlot);
        }
        return new Program(
                entry.date(),
                targets,
                p.coolToC(),
                p.ditherEvery(),
                p.ditherArcsec(),
                p.refocusAfterC(),
                p.centreWithinArcsec(),
                p.recentreBeyondArcsec(),
                p.minimumAltitudeDeg(),
                p.calibrations(),
                p.fullFramesPerLeg());
    }

    private static Equatorial position(TargetEntry t, String name, DeepSkyCatalogue objects) {
        if (t.raDeg().isPresent() && t.decDeg().isPresent()) {
            return new Equatorial(t.raDeg().get(), t.decDeg().get());
        }
        return objects.find(t.name())
                .orElseThrow(() -> new BadInputException(
                        name,
                        "the catalogue has no \"" + t.name() + "\"",
                        "a name like \"NGC 2403\", or raDeg and decDeg (J2000)"))
                .position();
    }

    /**
     * The observatory's settings as a record of the simulator's.
     *
     * @throws BadInputException if a value is of the wrong kind
     */
    public <T> T observatoryOver(T defaults, Class<T> type) {
        try {
            com.fasterxml.jackson.databind.node.ObjectNode merged = JSON.valueToTree(defaults);
            observatory.fields().forEachRemaining(field -> merged.set(field.getKey(), field.getValue()));
            return JSON.treeToValue(merged, type);
        } catch (JsonProcessingException e) {
            throw new BadInputException(
                    "observatory", firstLine(e.getOriginalMessage()), "settings as in examples/", e);
        }
    }
}
