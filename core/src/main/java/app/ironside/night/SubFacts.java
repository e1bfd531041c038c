package app.ironside.night;

import app.ironside.image.Frame;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubRegraded;
import app.ironside.star.FieldMap;
import app.ironside.star.StarField;
import java.util.Optional;
import java.util.OptionalDouble;

/** What the journal says of a sub, one way for subs that were just taken and for those that were found after a stop. */
final class SubFacts {
    private SubFacts() {}

    /**
     * What its pixels tell.
     *
     * @param offsetAdu level of an unexposed pixel
     * @param light of its stars
     * @param slopeAdu of its background
     * @param full whether the whole sensor was read out: only then star shapes speak for the field
     */
    static SubMeasures of(
            StarField field, Frame frame, double offsetAdu, SubJudge.StarLight light, double slopeAdu, boolean full) {
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
                full ? Optional.of(shape(field)) : Optional.empty(),
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
