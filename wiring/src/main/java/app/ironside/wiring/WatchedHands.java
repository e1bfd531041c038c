package app.ironside.wiring;

import app.ironside.device.Camera;
import app.ironside.device.Hands;
import app.ironside.night.NightWatcher;
import app.ironside.sky.Equatorial;
import java.util.Optional;

/** Simulated hands, with a person who may confirm by themselves what is to be looked at. */
final class WatchedHands implements Hands {
    private final NightWatcher person;
    private final Hands simulated;

    WatchedHands(NightWatcher person, Hands simulated) {
        this.person = person;
        this.simulated = simulated;
    }

    @Override
    public void confirm(String what) throws InterruptedException {
        person.confirm(what);
        simulated.confirm(what);
    }

    @Override
    public boolean isSo(String what) throws InterruptedException {
        boolean seen = person.isSo(what);
        return simulated.isSo(what) && seen;
    }

    @Override
    public boolean alignByReticle(String what) throws InterruptedException {
        boolean seen = person.isSo(what);
        return simulated.alignByReticle(what) && seen;
    }

    @Override
    public void turn(double altitudeTurns, double azimuthTurns) throws InterruptedException {
        simulated.turn(altitudeTurns, azimuthTurns);
    }

    @Override
    public void changeFilter(String filter) throws InterruptedException {
        simulated.changeFilter(filter);
    }

    @Override
    public void focus(int steps, double stepUm) throws InterruptedException {
        simulated.focus(steps, stepUm);
    }

    @Override
    public void point(Optional<Equatorial> from, Equatorial to) throws InterruptedException {
        simulated.point(from, to);
    }

    @Override
    public void turnAxis(double degrees) throws InterruptedException {
        simulated.turnAxis(degrees);
    }

    @Override
    public void track(boolean on) throws InterruptedException {
        simulated.track(on);
    }

    @Override
    public void expose(Camera.Exposure wanted) {
        simulated.expose(wanted);
    }

    @Override
    public void exposed() {
        simulated.exposed();
    }
}
