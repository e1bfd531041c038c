package app.ironside.watch;

import app.ironside.BadInputException;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.judge.Grade;
import app.ironside.judge.Grader;
import app.ironside.judge.Looks;
import app.ironside.library.FrameFacts;
import app.ironside.library.FrameKind;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.solve.PlaneTransform;
import app.ironside.star.FieldMap;
import app.ironside.star.StarSearch;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * A night of which only the frames are known, from whatever program writes them: each new light is judged by those before it, and what the
 * last of them show to be wrong is told.
 */
public final class FolderNight {
    /** A frame that comes so long after it was taken is of another night, or of a camera whose clock is wrong. */
    private static final Duration LIVE = Duration.ofHours(1);

    private final Looks looks;
    private final Optional<Site> site;
    private final OptionalDouble arcsecPerPixel;
    private final Map<String, List<Looks.Measured>> targets = new HashMap<>();
    private final Map<String, Boolean> told = new HashMap<>();
    private final Episodes episodes = new Episodes(false);
    private List<Watched> present = List.of();
    private boolean live;

    /**
     * @param site where frames do not tell it
     * @param arcsecPerPixel of an unbinned frame, where frames do not tell it
     */
    public FolderNight(StarSearch finder, Optional<Site> site, OptionalDouble arcsecPerPixel) {
        this.looks = new Looks(finder);
        this.site = site;
        this.arcsecPerPixel = arcsecPerPixel;
    }

    /**
     * What one more frame says.
     *
     * @param grade its own verdict
     * @param changed earlier ones whose verdict is another now
     * @param news what is found and told
     * @param frame as it was read
     * @param measured what it shows by itself
     * @param subs its target's so far, in time
     * @param time at which it is told: now, or the frame's own end where that is long past
     */
    public record Step(
            Grade grade,
            List<Grade> changed,
            Episodes.News news,
            Frame frame,
            Looks.Measured measured,
            List<Watched> subs,
            Instant time) {}

    /**
     * Takes in a frame; empty if it is no light.
     *
     * @throws BadInputException if it cannot be read
     */
    public Optional<Step> take(Path file, Instant now) {
        Frame frame = FrameFiles.read(file);
        Looks.Measured measured = looks.measure(file, frame);
        FrameKind kind = measured.facts().kind();
        if (kind != FrameKind.LIGHT && kind != FrameKind.UNKNOWN) {
            return Optional.empty();
        }
        List<Looks.Measured> series =
                targets.computeIfAbsent(measured.facts().target().orElse(""), t -> new ArrayList<>());
        series.add(measured.at(site));
        Looks.Beside beside = Looks.beside(series);
        List<Grade> grades = Grader.grade(beside.looks());
        present = watched(series, beside, grades);
        live = measured.facts()
                .middle()
                .filter(taken -> Duration.between(taken, now).abs().compareTo(LIVE) < 0)
                .isPresent();
        Grade own = grades.get(grades.size() - 1);
        List<Grade> changed = new ArrayList<>();
        for (Grade grade : grades) {
            Boolean before = told.put(grade.sub().name(), grade.keep());
            if (before != null && before != grade.keep()) {
                changed.add(grade);
            }
        }
        Instant time = live ? now : measured.facts().end().orElse(now);
        Episodes.News news = episodes.next(SubsWatch.findings(present), time);
        return Optional.of(new Step(own, changed, news, frame, series.get(series.size() - 1), present, time));
    }

    /** Whether its frames are of now, as far as is known; those of nights long over are judged and told as of then. */
    public boolean isLive() {
        return live || present.isEmpty();
    }

    /** What silence says, asked now and then; nothing of a night that is long over. */
    public Episodes.News silence(Instant now) {
        return SubsWatch.silence(present, now)
                .filter(f -> live)
                .map(f -> episodes.next(List.of(f), now))
                .orElse(new Episodes.News(List.of(), List.of(), List.of()));
    }

    private List<Watched> watched(List<Looks.Measured> series, Looks.Beside beside, List<Grade> grades) {
        List<Watched> watched = new ArrayList<>();
        for (int i = 0; i < series.size(); i++) {
            Looks.Measured m = series.get(i);
            FieldMap map = FieldMap.of(m.field());
            OptionalDouble scale = scale(m);
            Optional<PlaneTransform> lies = beside.lies().get(i);
            double x = (m.field().width() + 1) / 2.0;
            double y = (m.field().height() + 1) / 2.0;
            boolean placed = scale.isPresent() && lies.isPresent();
            watched.add(new Watched(
                    grades.get(i),
                    map.trailing(),
                    map.trailingAngleDeg(),
                    placed ? arcmin(lies.get().x(x, y) - x, lies.get(), scale) : OptionalDouble.empty(),
                    placed ? arcmin(lies.get().y(x, y) - y, lies.get(), scale) : OptionalDouble.empty(),
                    hourAngle(m),
                    Optional.empty()));
        }
        watched.sort(java.util.Comparator.comparing(w -> w.grade().sub().time().orElse(Instant.EPOCH)));
        return watched;
    }

    /** After a flip the field moves the other way across the sensor. */
    private static OptionalDouble arcmin(double px, PlaneTransform lies, OptionalDouble scale) {
        double sense = Math.abs(lies.turnDeg()) > 90 ? -1 : 1;
        return OptionalDouble.of(sense * px * scale.getAsDouble() / 60);
    }

    private OptionalDouble scale(Looks.Measured m) {
        if (m.facts().arcsecPerPixel().isPresent()) {
            return m.facts().arcsecPerPixel();
        }
        int binning = m.facts().binning().orElse(1);
        return arcsecPerPixel.isPresent()
                ? OptionalDouble.of(arcsecPerPixel.getAsDouble() * binning)
                : OptionalDouble.empty();
    }

    private static OptionalDouble hourAngle(Looks.Measured m) {
        FrameFacts f = m.facts();
        return f.place().isPresent() && f.pointed().isPresent() && f.middle().isPresent()
                ? OptionalDouble.of(Observer.at(f.place().get())
                        .hourAngleDeg(f.pointed().get(), f.middle().get()))
                : OptionalDouble.empty();
    }
}
