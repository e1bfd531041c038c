package app.ironside.cli;

import app.ironside.sky.NightTimes;
import app.ironside.sky.Site;
import java.time.ZoneId;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "night", description = "Twilights, Moon and darkness of a night.")
final class NightVerb extends Verb {
    @Mixin
    private EveningOptions evening;

    @Override
    Answer answer() {
        Site site = evening.site();
        NightTimes night = evening.times(site);
        ZoneId zone = site.zone();
        return Answer.done(Answer.facts(
                "sunset", time(night.sunset(), zone),
                "civilDusk", time(night.civilDusk(), zone),
                "nauticalDusk", time(night.nauticalDusk(), zone),
                "astronomicalDusk", time(night.astronomicalDusk(), zone),
                "astronomicalDawn", time(night.astronomicalDawn(), zone),
                "nauticalDawn", time(night.nauticalDawn(), zone),
                "civilDawn", time(night.civilDawn(), zone),
                "sunrise", time(night.sunrise(), zone),
                "darkHours", rounded(night.darkHours(), 4),
                "moonrise", times(night.moonrise(), zone),
                "moonset", times(night.moonset(), zone),
                "moonIlluminatedFraction", rounded(night.moonIlluminatedFraction(), 4),
                "moonlessDarkHours", rounded(night.moonlessDarkHours(), 4)));
    }
}
