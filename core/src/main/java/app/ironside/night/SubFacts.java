package app.ironside.night;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubRegraded;
import app.ironside.star.FieldMap;
import app.ironside.star.StarField;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;

/** What the journal says of a sub, one way for subs that were just taken and for those that were found after a stop. */
final class SubFacts {
    private SubFacts() {}

    /**
     * What its pixels tell.
     *
     * @param offsetAdu level of an unexposed pixel
     * @param starLight how bright its stars are, worked out beside their shapes
     * @param slopeAdu of its background
     * @param full whether the whole sensor was read out: only then star shapes speak for the field
     */
    static SubMeasures of(
            StarField field,
            Frame frame,
            double offsetAdu,
            Supplier<SubJudge.StarLight> starLight,
            double slopeAdu,
            boolean full,
            Workers workers) {
        AtomicReference<SubJudge.StarLight> lit = new AtomicReference<>();
        AtomicReference<SubMeasures.FieldShape> shaped = new AtomicReference<>();
        workers.forEach(full ? 2 : 1, i -> {
            if (i == 0) {
                lit.set(starLight.get());
            } else {
                shaped.set(shape(field));
            }
        });
        SubJudge.StarLight light = lit.get();
        return new SubMeasures(
                frame.width(),
                field.stars().size(),
                field.medianHalfFluxRadiusPx(),
                field.medianFwhmPx(),
                field.medianEccentricity(),
                field.backgroundAdu(),
                field.noiseAdu(),
                OptionalDouble.of(Math.max(1, field.backgroundAdu() - offsetAdu)),
                OptionalDouble.of(light.fluxAdu()),
                Optional.ofNullable(shaped.get()),
                light.map(),
                OptionalDouble.of(slopeAdu));
    }

    static SubMeasures.FieldShape shape(StarField field) {
        FieldMap map = FieldMap.of(field);
        return new SubMeasures.FieldShape(
                map.trailing(),
                map.trailingAngleDeg(),
                map.findings().stream().map(FieldMap.Finding::sentence).toList());
    }

    private static boolean isByHand(NightRecord record, String file) {
        return record.state().subs().stream()
                .anyMatch(s -> s.file().equals(file) && s.verdict().by().isPresent());
    }

    /** Tells of earlier subs of a series whose verdict is another now. */
    static void tellRegraded(NightRecord record, SubJudge judge, String set) {
        for (SubJudge.Regraded changed : judge.regraded(set)) {
            if (isByHand(record, changed.sub().name())) {
                continue; // what a person said stands over the rule book
            }
            String name = changed.sub().name().replaceFirst(".*/", "");
            record.tell(new SubRegraded(
                    record.now(),
                    name + (changed.verdict().keep() ? " is kept after all: " : " is out after all: ")
                            + changed.verdict().reason() + ".",
                    changed.sub().name(),
                    changed.verdict()));
        }
    }
}
