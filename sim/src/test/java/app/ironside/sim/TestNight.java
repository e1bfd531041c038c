package app.ironside.sim;

import app.ironside.Workers;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.FocuserSpec;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.MountSpec;
import app.ironside.kit.Optics;
import app.ironside.kit.Sensor;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Horizon;
import app.ironside.sky.Site;
import app.ironside.sky.StarCatalogue;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;

/** Site, kit and sky of the simulator's own tests. */
final class TestNight {
    static final Site SITE = new Site("Colle Sorbo", 44.05, 8.2, 740, ZoneOffset.UTC, 20.9, Horizon.FLAT);
    static final Instant SUNSET = Instant.parse("2026-11-14T16:02:00Z");
    static final Instant NIGHT = Instant.parse("2026-11-14T22:00:00Z");
    static final SkySource SKY = new SkySource(StarCatalogue.hipparcos(), DeepSkyCatalogue.load());

    private TestNight() {}

    /** Small pictures are quick. */
    static Kit kit(int widthPx, int heightPx) {
        return new Kit(
                "test",
                new Optics(90, 432, 0, 0.9, 3.6),
                new Sensor(widthPx, heightPx, 6.3, 0.9, 500, 16, 4.5, 55_000, 0.75, 0.08, 0, 6, true, 1.5),
                List.of(new FilterSpec("L", 270, 550, 0), new FilterSpec("Ha", 7, 656.3, 5)),
                new FocuserSpec(4, 5000, 2600, 16),
                new MountSpec(3, 3, 0.5, 4),
                new GuiderSpec(40, 160, 640, 480, 3.75));
    }

    static SimulatedObservatory observatory(Kit kit, SimSettings settings, SteppedClock clock) {
        return new SimulatedObservatory(SITE, kit, settings, SKY, clock, SUNSET, Workers.SERIAL);
    }
}
