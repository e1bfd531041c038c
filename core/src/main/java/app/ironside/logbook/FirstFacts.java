package app.ironside.logbook;

import app.ironside.Provenance;
import app.ironside.guide.GuideSample;
import app.ironside.journal.GuideFigures;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** Raises facts of the first version, a flat list of names and values, to the shape of the second. */
final class FirstFacts {
    private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

    /** By which the first version said that there was nothing to measure. */
    private static final double NOTHING_MEASURED = Double.MAX_VALUE;

    private FirstFacts() {}

    /** Facts of the second version; also their text where that was another. */
    static ObjectNode raised(EventRow row, ObjectNode f) {
        return switch (row.kind()) {
            case "NIGHT_STARTED" -> started(f);
            case "NIGHT_RESUMED" -> put(f, "subs", f.path("subs").asInt(0));
            case "PLAN" -> planned(f);
            case "GATE" -> gate(f);
            case "DEVICE" -> f.set("subject", f.path("device"));
            case "FOCUS" -> focus(f);
            case "POLAR" -> polar(f);
            case "SOLVE" -> solved(f);
            case "GUIDE_SETTLED" -> proven(row.time(), f);
            case "DITHER" -> f.set("took", duration(f.path("seconds").asDouble()));
            case "SUB" -> sub(row, f);
            case "REGRADED" -> f.set("verdict", verdict(f));
            case "CALIBRATION" -> put(f, "dark", f.path("set").asText().startsWith("dark"));
            case "MASTER" -> f.put(
                    "name",
                    f.path("file")
                            .asText()
                            .replaceFirst(".*/", "")
                            .replace(".fits", "")
                            .replace('_', ' '));
            case "STACK" -> stack(f);
            default -> f;
        };
    }

    /** Guide exposures of an event: their pulses and signal were not told then. */
    static List<GuideSample> samples(Instant told, ObjectNode f) {
        List<GuideSample> samples = new ArrayList<>();
        JsonNode trace = f.path("trace");
        if (trace.size() > 0) {
            Instant first = told.minus(length(trace));
            for (JsonNode s : trace) {
                samples.add(new GuideSample(
                        first.plusMillis(Math.round(1000 * s.path("t").asDouble())),
                        s.path("ra").asDouble(),
                        s.path("dec").asDouble(),
                        Double.NaN,
                        Double.NaN,
                        Double.NaN));
            }
        }
        return samples;
    }

    private static Duration length(JsonNode trace) {
        double last =
                trace.size() == 0 ? 0 : trace.get(trace.size() - 1).path("t").asDouble();
        return Duration.ofMillis(Math.round(1000 * last));
    }

    private static ObjectNode started(ObjectNode f) {
        // Nights from before this was told were rehearsals: there was no other way.
        boolean real = f.path("provenance").asText().equals(Provenance.REAL.word());
        return f.put("provenance", (real ? Provenance.REAL : Provenance.REHEARSED).name());
    }

    private static ObjectNode planned(ObjectNode f) {
        f.set("span", span(f.path("from"), f.path("until")));
        if (f.path("flip").asText().isEmpty()) {
            f.remove("flip");
        }
        return f;
    }

    private static ObjectNode gate(ObjectNode f) {
        ObjectNode gate = f.deepCopy();
        if (gate.path("measured").asDouble() >= NOTHING_MEASURED) {
            gate.remove("measured");
        }
        f.set("gate", gate);
        return f;
    }

    private static ObjectNode focus(ObjectNode f) {
        ObjectNode verdict = pick(f, "bestPosition", "bestSize", "rSquared", "positionSigma", "accepted", "reason");
        f.set("verdict", verdict.put("method", "HYPERBOLA"));
        f.set("curve", pick(f, "a", "b", "c"));
        return f.set("took", duration(f.path("seconds").asDouble()));
    }

    private static ObjectNode polar(ObjectNode f) {
        ArrayNode sights = NODES.arrayNode();
        for (JsonNode frame : f.path("frames")) {
            ObjectNode sight = pick(frame, "caption", "file");
            sight.put("reason", frame.path("reason").asText());
            if (frame.has("raDeg")) {
                ObjectNode place = pick(frame, "rotationDeg", "matchedStars", "rmsArcsec");
                place.set("centre", pick(frame, "raDeg", "decDeg"));
                sight.set("place", place);
            }
            sights.add(sight);
        }
        f.set("sights", sights);
        f.put("live", f.path("live").asBoolean());
        return f.put("advice", f.path("advice").asText());
    }

    private static ObjectNode solved(ObjectNode f) {
        f.set("centre", pick(f, "raDeg", "decDeg"));
        f.put("byHand", f.path("byHand").asText());
        if (!f.has("wrongHints")) {
            f.putArray("wrongHints");
        }
        return f;
    }

    private static ObjectNode proven(Instant told, ObjectNode f) {
        ObjectNode span = NODES.objectNode();
        span.put("from", told.minus(length(f.path("trace"))).toString());
        span.put("until", told.toString());
        f.set("span", span);
        ObjectNode figures = NODES.objectNode();
        figures.put("samples", f.path("trace").size());
        figures.put("lost", 0);
        spread(f, "rmsRaArcsec", "rmsDecArcsec", "p80Arcsec", figures);
        return f.set("figures", figures);
    }

    /** Adds how guiding spread, if it was measured: see {@link GuideFigures}. */
    private static void spread(ObjectNode f, String ra, String dec, String p80, ObjectNode figures) {
        if (f.path(ra).isNumber() && f.path(dec).isNumber()) {
            ObjectNode about = NODES.objectNode();
            about.set("rmsRaArcsec", f.get(ra));
            about.set("rmsDecArcsec", f.get(dec));
            about.put(
                    "rmsTotalArcsec",
                    Math.hypot(f.get(ra).asDouble(), f.get(dec).asDouble()));
            about.set("p80Arcsec", f.get(p80));
            figures.set("about", about);
        }
    }

    private static ObjectNode sub(EventRow row, ObjectNode f) {
        f.put("name", row.text().replaceFirst(" (kept|out: .*)\\.$", ""));
        double seconds = f.path("seconds").asDouble();
        ObjectNode exposed = NODES.objectNode();
        exposed.put("from", row.time().minusMillis(Math.round(1000 * seconds)).toString());
        exposed.put("until", row.time().toString());
        f.set("exposed", exposed);
        f.put("test", f.path("test").asBoolean());
        f.put("foundAfterStop", f.path("foundAfterStop").asBoolean());
        f.put("endedEarly", false);
        f.set("verdict", verdict(f));
        f.set("measures", measures(f));
        f.set("circumstances", pick(f, "altitudeDeg", "hourAngleDeg", "temperatureC", "focusSteps", "pierSide"));
        ObjectNode guiding = NODES.objectNode();
        guiding.set(
                "samples",
                f.has("guideSamples")
                        ? f.get("guideSamples")
                        : NODES.numberNode(f.path("trace").size()));
        guiding.put("lost", f.path("guideLost").asInt(0));
        spread(f, "guideRmsRaArcsec", "guideRmsDecArcsec", "guideP80Arcsec", guiding);
        return f.set("guiding", guiding);
    }

    private static ObjectNode measures(ObjectNode f) {
        ObjectNode m = pick(f, "stars", "backgroundAdu", "noiseAdu", "skyAdu", "starFluxAdu");
        m.put("widthPx", f.path("widthPx").asInt(0));
        for (String size : List.of("hfrPx", "fwhmPx", "eccentricity")) {
            // The first version wrote 0 where there was no star to measure.
            if (f.path(size).asDouble() > 0
                    || (size.equals("eccentricity") && f.path("stars").asInt() > 0)) {
                m.set(size, f.get(size));
            }
        }
        if (f.has("trailing")) {
            ObjectNode field = pick(f, "trailing", "trailingAngleDeg");
            field.set("findings", f.has("field") ? f.get("field") : NODES.arrayNode());
            m.set("field", field);
        }
        return m;
    }

    private static ObjectNode verdict(ObjectNode f) {
        return pick(f, "keep", "reason");
    }

    private static ObjectNode stack(ObjectNode f) {
        f.set("light", duration(f.path("seconds").asDouble()));
        f.put("partial", f.path("partial").asInt(0));
        if (f.has("snrGainPossible")) {
            ObjectNode gain = NODES.objectNode();
            gain.set("measured", f.get("snrGain"));
            gain.set("possible", f.get("snrGainPossible"));
            gain.set("error", f.get("snrGainError"));
            f.set("gain", gain);
        }
        if (f.path("hfrPx").asDouble() <= 0) {
            f.remove("hfrPx");
        }
        return f;
    }

    private static ObjectNode span(JsonNode from, JsonNode until) {
        ObjectNode span = NODES.objectNode();
        span.set("from", from);
        span.set("until", until);
        return span;
    }

    private static JsonNode duration(double seconds) {
        return NODES.textNode(Duration.ofMillis(Math.round(1000 * seconds)).toString());
    }

    /** Some of an object's values, as far as it has them. */
    private static ObjectNode pick(JsonNode from, String... names) {
        ObjectNode some = NODES.objectNode();
        for (String name : names) {
            if (from.hasNonNull(name)) {
                some.set(name, from.get(name));
            }
        }
        return some;
    }

    private static ObjectNode put(ObjectNode f, String name, int value) {
        return f.put(name, value);
    }

    private static ObjectNode put(ObjectNode f, String name, boolean value) {
        return f.put(name, value);
    }
}
