package app.ironside.night;

import app.ironside.device.Camera;
import app.ironside.device.Hands;
import app.ironside.sky.Equatorial;
import app.ironside.sky.TangentPlane;
import java.util.Locale;
import java.util.Optional;

/** A person at the telescope: is told what to do, and waited for until they say that it is done. */
public final class PersonsHands implements Hands {
    private final NightWatcher person;

    /**
     * @param person is asked by {@link NightWatcher#confirm}
     */
    public PersonsHands(NightWatcher person) {
        this.person = person;
    }

    @Override
    public void turn(double altitudeTurns, double azimuthTurns) throws InterruptedException {
        person.confirm(String.format(
                Locale.ROOT,
                "knobs: altitude %.2f turn %s, azimuth %.2f turn %s",
                Math.abs(altitudeTurns),
                altitudeTurns > 0 ? "to raise the axis" : "to lower the axis",
                Math.abs(azimuthTurns),
                azimuthTurns > 0 ? "to move it east" : "to move it west"));
    }

    @Override
    public void confirm(String what) throws InterruptedException {
        person.confirm(what);
    }

    @Override
    public boolean isSo(String what) throws InterruptedException {
        return person.isSo(what);
    }

    @Override
    public boolean alignByReticle(String what) throws InterruptedException {
        return person.isSo(what);
    }

    @Override
    public void focus(int steps, double stepUm) throws InterruptedException {
        person.confirm(String.format(
                Locale.ROOT,
                "focus: turn the ring %s by %d of its least steps (%.0f µm in all)",
                steps > 0 ? "outward" : "inward",
                Math.abs(steps),
                Math.abs(steps) * stepUm));
    }

    @Override
    public void point(Optional<Equatorial> from, Equatorial to) throws InterruptedException {
        person.confirm(from.flatMap(here -> new TangentPlane(here).project(to))
                .map(way -> String.format(
                        Locale.ROOT,
                        "pointing: move the telescope %.2f° %s and %.2f° %s among the stars",
                        Math.abs(way.xiDeg()),
                        way.xiDeg() > 0 ? "east" : "west",
                        Math.abs(way.etaDeg()),
                        way.etaDeg() > 0 ? "north" : "south"))
                .orElse(String.format(
                        Locale.ROOT, "pointing: point at %.2f h %+.1f°, by eye", to.raDeg() / 15, to.decDeg())));
    }

    @Override
    public void turnAxis(double degrees) throws InterruptedException {
        person.confirm(String.format(
                Locale.ROOT,
                "axis: turn the right-ascension axis alone by %.0f° toward the %s",
                Math.abs(degrees),
                degrees > 0 ? "west" : "east"));
    }

    @Override
    public void track(boolean on) throws InterruptedException {
        person.confirm(on ? "tracker: switch its tracking on" : "tracker: switch its tracking off");
    }

    @Override
    public void expose(Camera.Exposure wanted) {
        person.wanted("shutter: " + words(wanted) + "; its file is the answer");
    }

    @Override
    public void exposed() {
        person.wanted("");
    }

    private static String words(Camera.Exposure wanted) {
        double seconds = wanted.length().toMillis() / 1000.0;
        String length = seconds > 0 ? FrameArchive.seconds(seconds).replace("s", " s") : "the shortest there is";
        return switch (wanted.kind()) {
            case LIGHT -> "a frame of the sky of " + length;
            case DARK -> "a dark of " + length + ", the telescope covered";
            case BIAS -> "a bias frame, the telescope covered, of " + length;
            case FLAT -> "a flat of " + length;
        };
    }
}
