package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.plan.TargetWindow;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "target", description = "When a target is up in the dark, and what that time is worth.")
final class TargetVerb extends Verb {
    @Parameters(arity = "0..1", paramLabel = "NAME", description = "A name of the catalogue, for example \"M 33\".")
    private String name;

    @Option(names = "--ra", paramLabel = "D", description = "Right ascension J2000, degrees, 0 to 360.")
    private Double ra;

    @Option(names = "--dec", paramLabel = "D", description = "Declination J2000, degrees.")
    private Double dec;

    @Option(
            names = "--min-altitude",
            paramLabel = "D",
            defaultValue = "0",
            description = "Lowest useful altitude, degrees (default 0).")
    private double minimumAltitude;

    @Mixin
    private EveningOptions evening;

    private record Named(String name, Equatorial position) {}

    @Override
    Answer answer() {
        Named target = target();
        if (!(minimumAltitude >= -1 && minimumAltitude <= 90)) {
            throw badOption("--min-altitude", "is " + minimumAltitude, "degrees, 0 to 90");
        }
        Site site = evening.site();
        ZoneId zone = site.zone();
        TargetWindow window =
                TargetWindow.of(target.position(), Observer.at(site), evening.times(site), minimumAltitude);
        Optional<Interval> longest = window.longest();
        List<Map<String, Object>> samples = window.samples().stream()
                .map(s -> Answer.facts(
                        "time", time(s.time(), zone),
                        "altitudeDeg", rounded(s.altitudeDeg(), 4),
                        "azimuthDeg", rounded(s.azimuthDeg(), 4),
                        "airmass", s.altitudeDeg() > 0 ? rounded(s.airmass(), 4) : null))
                .toList();
        Map<String, Object> facts = Answer.facts(
                "name", target.name(),
                "raDeg", target.position().raDeg(),
                "decDeg", target.position().decDeg(),
                "transit", time(window.transit(), zone),
                "transitAltitudeDeg", rounded(window.transitAltitudeDeg(), 4),
                "usableFrom", time(longest.map(Interval::from), zone),
                "usableUntil", time(longest.map(Interval::until), zone),
                "usableHours", rounded(window.usableHours(), 4),
                "effectiveHours", rounded(window.effectiveHours(), 4),
                "moonSeparationDeg", rounded(window.moonSeparationDeg(), 2),
                "samples", samples);
        return longest.isPresent()
                ? Answer.done(facts)
                : Answer.impossible(target.name() + " is not up in astronomical darkness on that night.", facts);
    }

    private Named target() {
        if (name != null && (ra != null || dec != null)) {
            throw new BadInputException("target", "both a name and coordinates are given", "one of the two");
        }
        if (name != null) {
            DeepSkyObject object = DeepSkyCatalogue.load()
                    .find(name)
                    .orElseThrow(() -> new BadInputException(
                            "target \"" + name + "\"",
                            "the catalogue has none",
                            "a name like \"NGC 2403\", or --ra and --dec"));
            return new Named(object.id(), object.position());
        }
        if (ra == null || dec == null) {
            throw new BadInputException("target", "neither named nor placed", "a NAME, or --ra and --dec in degrees");
        }
        return new Named(ra + " " + dec, place(ra, dec));
    }

    /** A place from two options, checked. */
    static Equatorial place(double ra, double dec) {
        if (!(ra >= 0 && ra <= 360)) {
            throw badOption("--ra", "is " + ra, "degrees, 0 to 360 (hours times 15)");
        }
        if (!(dec >= -90 && dec <= 90)) {
            throw badOption("--dec", "is " + dec, "degrees, -90 to 90");
        }
        return new Equatorial(ra, dec);
    }
}
