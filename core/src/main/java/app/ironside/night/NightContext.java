package app.ironside.night;

import app.ironside.Workers;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.kit.Kit;
import app.ironside.plan.Program;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.solve.PlateSolver;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;

/** Everything that the stages of one night share. */
public record NightContext(
        Site site,
        Kit kit,
        Program program,
        Devices devices,
        NightClock clock,
        FrameArchive archive,
        NightRecord record,
        PlateSolver solver,
        Workers workers) {
    StarFinder finder() {
        return new StarFinder(DetectSettings.DEFAULT, workers);
    }

    Observer observer() {
        return Observer.at(site);
    }
}
