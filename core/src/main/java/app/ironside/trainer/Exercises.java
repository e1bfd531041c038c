package app.ironside.trainer;

import app.ironside.document.FaultKind;
import app.ironside.trainer.Exercise.Fault;
import java.util.List;
import java.util.Optional;

/** The exercises that ship, from what shows at once to two things together. */
public final class Exercises {
    private static final String PLAIN =
            "A clear, calm night; the target is up for two hours. Keep as much light as you can. Ironside runs the night and keeps what it"
                    + " thinks of it to itself until the end.";

    /** All of them, the easy ones first. */
    public static final List<Exercise> ALL = List.of(
            one(
                    1,
                    "black",
                    "Focused, aligned, the hood is on, and not one star",
                    FaultKind.CAP,
                    0,
                    "No star and no sky either: under cloud the sky still shines. The hood went on with its cap. Take it off; focus and pointing stay."),
            one(
                    1,
                    "soft-at-once",
                    "Soft from one sub to the next",
                    FaultKind.FOCUSER_SLIP,
                    30,
                    "All stars are wide at once and round: focus again, and if it comes back, lock the focuser."),
            one(
                    1,
                    "elsewhere",
                    "The field is another",
                    FaultKind.KNOCK,
                    35,
                    "One sub is torn and the field has jumped: point again, and look whether the polar axis still stands."),
            one(
                    1,
                    "chasing",
                    "The guider is content, the stars are not",
                    FaultKind.WRONG_GUIDE_STAR,
                    25,
                    "The guide star does not move at all while the field does: it is a hot pixel. Begin guiding anew on another star."),
            one(
                    1,
                    "fading",
                    "Fewer stars every minute",
                    FaultKind.CLOUD,
                    30,
                    "Wait: cloud passes. Nothing else helps, and what was in focus stays so."),
            one(
                    1,
                    "boiling",
                    "Wide stars, round everywhere",
                    FaultKind.SEEING,
                    30,
                    "The air. Focusing again costs time and gives nothing; go on, the weight of these subs is less."),
            one(
                    2,
                    "gone-from-the-guider",
                    "The guide trace stops",
                    FaultKind.GUIDE_STAR_LOST,
                    30,
                    "The main camera sees stars, the guide camera none: it is not cloud. Look at the guide scope, then begin guiding anew."),
            one(
                    2,
                    "jagged",
                    "A trace like a saw",
                    FaultKind.WIND,
                    25,
                    "Gusts: shorter subs lose less to each, or wait."),
            one(
                    2,
                    "slowly-longer",
                    "Stars grow longer toward the end of each sub",
                    FaultKind.CABLE,
                    30,
                    "A drag that grows: look at the cables before the next sub, then point and calibrate anew."),
            one(
                    2,
                    "creeping",
                    "The field creeps",
                    FaultKind.POLAR_ERROR,
                    20,
                    "The polar axis has moved: shorter subs stay round; recentre, and measure the axis again if there is time."),
            one(
                    2,
                    "silence",
                    "The camera is silent",
                    FaultKind.CAMERA_LOST,
                    40,
                    "It comes back when its plug does; what was taken is safe. Waiting costs less than starting again."),
            one(
                    2,
                    "bright",
                    "The background jumps",
                    FaultKind.STRAY_LIGHT,
                    30,
                    "Light falls in from one side: find the lamp, or go to a target on the other side of the sky."),
            one(
                    2,
                    "fewer-and-wider",
                    "Fewer stars, and wider ones",
                    FaultKind.DEW,
                    25,
                    "The glass is wet: stars go and swell together, wherever it points. Heaters on before it begins; warm air on the front glass now."),
            new Exercise(
                    "lost-count",
                    3,
                    "Focus leads nowhere",
                    PLAIN,
                    List.of(Fault.of(FaultKind.FOCUSER_LOST, 25), Fault.of(FaultKind.FOCUSER_SLIP, 70)),
                    "The focuser has lost its zero: earlier positions no longer hold. Focus again from what it shows now, twice."),
            new Exercise(
                    "after-the-cloud",
                    3,
                    "Worse after the cloud than before",
                    PLAIN,
                    List.of(Fault.lasting(FaultKind.CLOUD, 20, 20), Fault.of(FaultKind.FOCUSER_SLIP, 35)),
                    "Under the cloud the focuser slipped: when stars come back wide, it is not the cloud any more. Focus again."),
            new Exercise(
                    "two-at-once",
                    3,
                    "Knocked in the wind",
                    PLAIN,
                    List.of(Fault.lasting(FaultKind.WIND, 20, 50), Fault.of(FaultKind.KNOCK, 45)),
                    "Gusts hide the knock: a field that has jumped does not come back by itself. Point again in the wind."));

    private Exercises() {}

    private static Exercise one(int grade, String id, String title, FaultKind kind, int after, String remedy) {
        return new Exercise(id, grade, title, PLAIN, List.of(Fault.of(kind, after)), remedy);
    }

    public static Optional<Exercise> named(String id) {
        return ALL.stream().filter(e -> e.id().equals(id)).findFirst();
    }
}
