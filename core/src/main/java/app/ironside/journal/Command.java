package app.ironside.journal;

import app.ironside.Check;
import app.ironside.guide.GuideRules;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** What a person may ask of a night that runs. */
public sealed interface Command {
    /** In words, for the journal: "hold". */
    String words();

    /** Whether it is obeyed at once; else at the next safe point, between two pieces of work. */
    default boolean atOnce() {
        return false;
    }

    /** Whether it is asked of the subs of a target, and can only be done while one is under way. */
    default boolean ofTheRun() {
        return true;
    }

    /** Rest at the next safe point, until told to go on. */
    record Hold() implements Command {
        @Override
        public String words() {
            return "hold";
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }

    /** Go on after a rest. */
    record GoOn() implements Command {
        @Override
        public String words() {
            return "go on";
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }

    /**
     * End the sub that is being taken.
     *
     * @param keep whether what was gathered is kept, marked as short
     */
    record EndSub(boolean keep) implements Command {
        @Override
        public String words() {
            return keep ? "end this sub and keep it" : "throw this sub away";
        }

        @Override
        public boolean atOnce() {
            return true;
        }
    }

    /** Leave the target for the next. */
    record SkipTarget() implements Command {
        @Override
        public String words() {
            return "leave this target";
        }
    }

    /** No more of the present filter in this block. */
    record SkipFilter() implements Command {
        @Override
        public String words() {
            return "no more in this filter";
        }
    }

    /** One sub more than the block has. */
    record OneMore() implements Command {
        @Override
        public String words() {
            return "one more sub";
        }
    }

    /** Stay on the target for longer. */
    record Extend(Duration by) implements Command {
        @Override
        public String words() {
            return "stay " + by.toMinutes() + " minutes longer";
        }
    }

    /** A focus run. */
    record Refocus() implements Command {
        @Override
        public String words() {
            return "focus anew";
        }
    }

    /** Bring the target to the middle again. */
    record Recentre() implements Command {
        @Override
        public String words() {
            return "centre anew";
        }
    }

    /** Measure again how the guide star moves for pulses. */
    record CalibrateGuider() implements Command {
        @Override
        public String words() {
            return "calibrate the guider";
        }
    }

    /** Go on without guiding. */
    record StopGuiding() implements Command {
        @Override
        public String words() {
            return "stop guiding";
        }
    }

    /** Guide again. */
    record StartGuiding() implements Command {
        @Override
        public String words() {
            return "start guiding";
        }
    }

    /** Shift the pointing a little before the next sub. */
    record DitherNow() implements Command {
        @Override
        public String words() {
            return "dither now";
        }
    }

    /** Take subs of rising length, which are not kept, to see how long stars stay round. */
    record TryLengths() implements Command {
        @Override
        public String words() {
            return "try lengths of subs";
        }
    }

    /**
     * Guide by other rules.
     *
     * @param rules in force from the next guide exposure on
     */
    record GuideBy(GuideRules rules) implements Command {
        @Override
        public String words() {
            return "guide by other rules";
        }
    }

    /**
     * Guide on another star.
     *
     * @param x about where it stands on the guide frame, pixels from 1
     */
    record PickGuideStar(double x, double y) implements Command {
        @Override
        public String words() {
            return Math.round(x) + ", " + Math.round(y) + " is the guide star";
        }
    }

    /** Watch the guide star for some minutes without a correction. */
    record WatchUnguided(int minutes) implements Command {
        public WatchUnguided {
            Check.inRange("minutes", minutes, 1, 120);
        }

        @Override
        public String words() {
            return "watch for " + minutes + " minutes without guiding";
        }
    }

    /**
     * Guide as it is and changed, in turns, twice each.
     *
     * @param what is changed, in words
     * @param minutes of each run
     * @param other rules of the changed runs; empty if hands change something
     */
    record CompareGuiding(String what, int minutes, Optional<GuideRules> other) implements Command {
        public CompareGuiding {
            Check.name("what is compared", what);
            Check.inRange("minutes", minutes, 1, 60);
        }

        @Override
        public String words() {
            return "compare before and after: " + what;
        }
    }

    /** Measure the filters' focus against each other. */
    record MeasureOffsets() implements Command {
        @Override
        public String words() {
            return "measure the filters' focus";
        }
    }

    /** Measure step and slack of the focuser by the stars. */
    record MeasureFocuser() implements Command {
        @Override
        public String words() {
            return "measure the focuser's step and slack";
        }
    }

    /** Go on although a gate was not passed. */
    record Overrule(Stage stage) implements Command {
        @Override
        public String words() {
            return "go on although " + stage.title() + " is not passed";
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }

    /**
     * Go on by another program.
     *
     * @param document the night file that is in force from here on
     */
    record Replan(String document) implements Command {
        @Override
        public String words() {
            return "go on by a changed program";
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }

    /**
     * Give subs verdicts by hand.
     *
     * @param verdicts each over the one that stood
     */
    record GiveVerdicts(List<Marks.Given> verdicts) implements Command {
        public GiveVerdicts {
            verdicts = List.copyOf(verdicts);
        }

        @Override
        public String words() {
            long out = verdicts.stream().filter(v -> !v.verdict().keep()).count();
            return "of " + verdicts.size() + (verdicts.size() == 1 ? " sub, " : " subs, ") + out + " out";
        }

        @Override
        public boolean atOnce() {
            return true;
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }

    /**
     * Keep a person's own words with the night.
     *
     * @param note as it was typed
     */
    record Note(String note) implements Command {
        @Override
        public String words() {
            return "a note";
        }

        @Override
        public boolean atOnce() {
            return true;
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }

    /** No more lights: park, calibration frames, warm up, stacks. */
    record EndNight() implements Command {
        @Override
        public String words() {
            return "end the night";
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }

    /** Park the mount and stop, whatever is being done; the night can go on later. */
    record ParkNow() implements Command {
        @Override
        public String words() {
            return "park now";
        }

        @Override
        public boolean atOnce() {
            return true;
        }

        @Override
        public boolean ofTheRun() {
            return false;
        }
    }
}
