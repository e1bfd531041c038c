package app.ironside.desk;

import app.ironside.desk.night.Moment;
import app.ironside.desk.picture.PictureLevels;
import app.ironside.desk.picture.PictureLoader;
import app.ironside.desk.picture.Shown;
import app.ironside.desk.session.Looking;
import app.ironside.desk.session.Nights;
import app.ironside.desk.session.ShownNight;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import java.util.Optional;

/** The picture on the bench: of what is looked at, or the newest of its station. */
final class BenchPicture implements AutoCloseable {
    private final Nights nights;
    private final Looking looking;
    private final PictureLoader loader;

    /**
     * @param changed told when a picture has come
     */
    BenchPicture(Nights nights, Looking looking, Runnable changed) {
        this.nights = nights;
        this.looking = looking;
        this.loader = new PictureLoader(changed);
    }

    /** Finds out which picture belongs on the bench and has it made, if it is not there yet. */
    void want(ShownNight night, Moment at) {
        Optional<NightEvent> fromFile =
                looking.chosen().filter(e -> NightState.fileOf(e).isPresent());
        if (fromFile.isEmpty() && !looking.isNow()) {
            fromFile = at.lastWithFile(looking.station());
        }
        if (fromFile.isPresent()) {
            load(night, fromFile.get());
            return;
        }
        Optional<Shown> live = night.model().latest(looking.station());
        if (live.isPresent()) {
            loader.show(live.get());
        } else {
            at.lastWithFile(looking.station()).ifPresentOrElse(e -> load(night, e), loader::clear);
        }
    }

    private void load(ShownNight night, NightEvent event) {
        night.entry()
                .ifPresent(e -> loader.load(
                        e.folder().resolve(NightState.fileOf(event).orElseThrow()),
                        event.text(),
                        () -> nights.likeness(night, event)));
    }

    Optional<PictureLevels> picture() {
        return loader.picture();
    }

    /** Why a picture could not be made; empty if it could. */
    String fault() {
        return loader.fault();
    }

    /** Whether the picture that was wanted last is there. */
    boolean isReady() {
        return loader.isReady();
    }

    void clear() {
        loader.clear();
    }

    @Override
    public void close() {
        loader.close();
    }
}
