package app.ironside.watch;

import app.ironside.device.Mount;
import app.ironside.journal.AirMeasured;
import app.ironside.journal.Dithered;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightResumed;
import app.ironside.journal.NightState;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.judge.Grade;
import app.ironside.judge.Grader;
import app.ironside.judge.SubLook;
import app.ironside.judge.SubLooks;
import app.ironside.kit.Kit;
import app.ironside.plan.Dew;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.sky.TangentPlane;
import app.ironside.solve.Wcs;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/** Gathers what a night's journal knows of each of its latest subs. */
final class NightSigns {
    /** So many of a target's latest subs are looked at: what happened hours ago is no yardstick for now. */
    private static final int LOOKED_AT = 120;

    /** A field that moves so far from one sub to the next was moved, and does not creep. */
    private static final double JUMP_ARCSEC = 12;

    private final SubLooks looks;

    /** What a sub shows does not change; where the Sun and the Moon stood takes a while to reckon. */
    private final Map<String, SubLook> known = new HashMap<>();

    private final Kit kit;

    NightSigns(Kit kit, Observer observer) {
        this.kit = kit;
        this.looks = new SubLooks(observer);
    }

    /** The latest subs of the target that was taken last, in time. */
    List<Watched> of(NightState night) {
        List<SubTaken> subs = night.subs();
        if (subs.isEmpty()) {
            return List.of();
        }
        String target = subs.get(subs.size() - 1).target();
        // What was measured before a stop was measured against other stars, and guided on others.
        Instant begun = night.last(NightResumed.class).map(NightResumed::time).orElse(Instant.MIN);
        int from = subs.size();
        while (from > 0
                && subs.size() - from < LOOKED_AT
                && subs.get(from - 1).target().equals(target)
                && !subs.get(from - 1).time().isBefore(begun)) {
            from--;
        }
        if (from == subs.size()) {
            return List.of();
        }
        List<SubTaken> latest = subs.subList(from, subs.size());
        List<Grade> grades = Grader.grade(latest.stream()
                .map(s -> known.computeIfAbsent(s.file(), f -> looks.of(s)))
                .toList());
        Map<String, Grade> byFile = new HashMap<>();
        grades.forEach(g -> byFile.put(g.sub().name(), g));
        return new Walk(kit, byFile, latest).through(night.events());
    }

    /** One walk through the night's events, with what stands at each sub. */
    private static final class Walk {
        private final Kit kit;
        private final Map<String, Grade> grades;
        private final Optional<Wcs> first;
        private final List<Watched> watched = new ArrayList<>();
        private Optional<AirMeasured> air = Optional.empty();
        private Optional<FocusSwept> focus = Optional.empty();
        private Optional<SubTaken> before = Optional.empty();
        private boolean focused;
        private int guideStar;
        private double ditherWest;
        private double ditherNorth;

        /** Where the field stood when it was pointed last, so that pointing again is no creeping. */
        private double pointedX = Double.NaN;

        private double pointedY = Double.NaN;
        private double baseX;
        private double baseY;
        private double lastX = Double.NaN;
        private double lastY = Double.NaN;
        private double moved;

        Walk(Kit kit, Map<String, Grade> grades, List<SubTaken> latest) {
            this.kit = kit;
            this.grades = grades;
            this.first = latest.stream().flatMap(s -> s.wcs().stream()).findFirst();
        }

        List<Watched> through(List<NightEvent> events) {
            for (NightEvent event : events) {
                if (event instanceof AirMeasured a) {
                    air = Optional.of(a);
                } else if (event instanceof FocusSwept f) {
                    focus = Optional.of(f);
                    focused = true;
                } else if (event instanceof GuidingProven) {
                    guideStar++;
                    ditherWest = 0;
                    ditherNorth = 0;
                    pointedX = Double.NaN;
                } else if (event instanceof Dithered d) {
                    ditherWest = d.westArcsec();
                    ditherNorth = d.northArcsec();
                } else if (event instanceof TargetCentred || event instanceof Flipped) {
                    pointedX = Double.NaN;
                } else if (event instanceof SubTaken sub && grades.containsKey(sub.file())) {
                    watched.add(watched(sub, grades.get(sub.file())));
                    before = Optional.of(sub);
                    focused = false;
                }
            }
            return watched;
        }

        private Watched watched(SubTaken sub, Grade grade) {
            Optional<SubMeasures.FieldShape> shape = sub.measures().field();
            Optional<Double> margin = air.filter(a ->
                            a.temperatureC().isPresent() && a.humidityPercent().orElse(0) > 0)
                    .map(a -> Dew.marginC(
                            a.temperatureC().getAsDouble(),
                            Math.min(1, a.humidityPercent().getAsDouble() / 100)));
            place(sub);
            return new Watched(
                    grade,
                    shape.map(SubMeasures.FieldShape::trailing).orElse(0.0),
                    shape.map(SubMeasures.FieldShape::trailingAngleDeg).orElse(0.0),
                    sub.wcs().isPresent() ? OptionalDouble.of(lastX / 60) : OptionalDouble.empty(),
                    sub.wcs().isPresent() ? OptionalDouble.of(lastY / 60) : OptionalDouble.empty(),
                    sub.circumstances().hourAngleDeg(),
                    Optional.of(new Signs(
                            sub.file(),
                            sub.filter(),
                            sub.guiding(),
                            guideStar,
                            sub.circumstances()
                                    .pierSide()
                                    .filter(s -> s == Mount.PierSide.WEST)
                                    .isPresent(),
                            toContact(sub),
                            sub.circumstances().temperatureC(),
                            focus.map(f -> OptionalDouble.of(f.temperatureC())).orElse(OptionalDouble.empty()),
                            sub.circumstances().focusSteps(),
                            focused || before.isEmpty(),
                            sub.measures().light(),
                            sub.measures().slopeAdu(),
                            sub.measures().skyAdu(),
                            trailFromRa(sub),
                            moved,
                            air.map(AirMeasured::humidityPercent).orElse(OptionalDouble.empty()),
                            margin.map(OptionalDouble::of).orElse(OptionalDouble.empty()),
                            air.map(AirMeasured::skyColderByK).orElse(OptionalDouble.empty()),
                            sub.circumstances().cooling())));
        }

        /** Where the field lies, arcseconds east and north of the first sub's; dithers and new pointings taken out. */
        private void place(SubTaken sub) {
            moved = 0;
            if (sub.wcs().isEmpty() || first.isEmpty()) {
                return;
            }
            // One and the same pixel, followed over the sky.
            double column = first.get().crpixX();
            double row = first.get().crpixY();
            Optional<TangentPlane.Point> at = new TangentPlane(first.get().toSky(column, row))
                    .project(sub.wcs().get().toSky(column, row));
            if (at.isEmpty()) {
                return;
            }
            double x = 3600 * at.get().xiDeg() + ditherWest;
            double y = 3600 * at.get().etaDeg() - ditherNorth;
            double way = Double.isNaN(lastX) || Double.isNaN(pointedX)
                    ? 0
                    : Math.hypot(baseX + x - pointedX - lastX, baseY + y - pointedY - lastY);
            boolean jumped = way > JUMP_ARCSEC;
            moved = jumped ? way : 0;
            boolean lost = sub.guiding().lost() > 2;
            if (Double.isNaN(pointedX) || jumped || lost) {
                pointedX = x;
                pointedY = y;
                baseX = Double.isNaN(lastX) ? 0 : lastX;
                baseY = Double.isNaN(lastY) ? 0 : lastY;
            }
            lastX = baseX + x - pointedX;
            lastY = baseY + y - pointedY;
        }

        private OptionalDouble toContact(SubTaken sub) {
            Optional<Wcs> place = sub.wcs().isPresent() ? sub.wcs() : first;
            return place.isPresent() && sub.circumstances().hourAngleDeg().isPresent()
                    ? OptionalDouble.of(
                            kit.contactHourAngleDeg(place.get().reference().decDeg())
                                    - sub.circumstances().hourAngleDeg().getAsDouble())
                    : OptionalDouble.empty();
        }

        private OptionalDouble trailFromRa(SubTaken sub) {
            Optional<Wcs> wcs = sub.wcs().isPresent() ? sub.wcs() : before.flatMap(SubTaken::wcs);
            if (wcs.isEmpty() || sub.measures().field().isEmpty()) {
                return OptionalDouble.empty();
            }
            Equatorial here = wcs.get().toSky(wcs.get().crpixX(), wcs.get().crpixY());
            Optional<double[]> there = wcs.get().toPixel(new Equatorial(here.raDeg() + 0.01, here.decDeg()));
            if (there.isEmpty()) {
                return OptionalDouble.empty();
            }
            double ra = Math.toDegrees(Math.atan2(
                    there.get()[1] - wcs.get().crpixY(),
                    there.get()[0] - wcs.get().crpixX()));
            double away = Math.abs(sub.measures().field().get().trailingAngleDeg() - ra) % 180;
            return OptionalDouble.of(Math.min(away, 180 - away));
        }
    }
}
