package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.journal.Verdict;
import app.ironside.kit.Kit;
import app.ironside.logbook.Account;
import app.ironside.logbook.TimesTaken;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.KitChoice;
import app.ironside.plan.Overheads;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.SeasonBoard;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Site;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Words and numbers of what reaches over many nights: wishes, the season, the account of the nights; and of the rules. */
final class ManyNightsReckoner {
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

    /** Where the own record does not tell yet (common practice: two to three). */
    private static final double COMMON_CLEAR_NIGHTS = 2.5;

    /** Half a year: what was before is of another season. */
    private static final int MONTHS_SHOWN = 6;

    private final PlanDesk plan;
    private final Map<SeasonBoard.ObjectClass, Optional<Kit>> suited = new EnumMap<>(SeasonBoard.ObjectClass.class);
    private List<Kit> suitedKits = List.of();
    private Site suitedSite;

    ManyNightsReckoner(PlanDesk plan) {
        this.plan = plan;
    }

    /** How often there is a clear night. */
    private record Rate(double nightsAMonth, String words) {}

    private Rate rate() {
        LocalDate tonight = plan.file().program().date();
        return plan.wishes()
                .account()
                .clearNightsAMonth(tonight)
                .filter(r -> r > 0)
                .map(r -> new Rate(r, Words.format("at your own %.1f clear nights a month", r)))
                .orElse(new Rate(
                        COMMON_CLEAR_NIGHTS,
                        Words.format("at %.1f clear nights a month, as is common", COMMON_CLEAR_NIGHTS)));
    }

    private List<Row> account() {
        Account account = plan.wishes().account();
        List<Row> rows = new ArrayList<>();
        String whose = account.isRehearsedOnly() ? "nights rehearsed" : "nights used";
        rows.add(new Row(whose, String.valueOf(account.nights().size())));
        if (!account.nights().isEmpty()) {
            rows.add(new Row("light kept", Words.format("%.1f h", account.hoursKept())));
            rows.add(new Row("judged not good enough", Words.format("%.1f h", account.hoursRejected())));
            account.lost()
                    .forEach((cause, hours) ->
                            rows.add(new Row("   by " + lostTo(cause), Words.format("%.1f h", hours))));
            rows.add(new Row("planned, not taken", Words.format("%.1f h", account.hoursNotTaken())));
            account.notTaken()
                    .forEach((reason, hours) -> rows.add(new Row(
                            "   " + (reason.isEmpty() ? "longer ways than planned" : "mostly " + reason),
                            Words.format("%.1f h", hours))));
        }
        account.months().stream().limit(MONTHS_SHOWN).forEach(m -> rows.add(month(m)));
        rows.addAll(settling());
        rows.add(new Row(
                "clear nights a month",
                account.clearNightsAMonth(plan.file().program().date())
                        .map(r -> Words.format("%.1f", r))
                        .orElse("no record yet")));
        return rows;
    }

    private static Row month(Account.Month m) {
        String lost = m.hoursLost() < 0.05
                ? ""
                : Words.format(", %.1f h lost", m.hoursLost())
                        + (m.lostFor().isEmpty() ? "" : ", most by " + lostTo(m.lostFor()));
        return new Row(
                m.month().toString(),
                Words.format("%d of %d clear, %.1f h kept%s", m.clear(), m.used(), m.hoursKept(), lost));
    }

    /** What shifting and focusing took of the kit's nights, and what a shift less often would give back. */
    private List<Row> settling() {
        List<Row> rows = new ArrayList<>();
        TimesTaken times = plan.wishes().times();
        int every = plan.file().program().ditherEvery();
        times.dither().ifPresent(d -> {
            rows.add(new Row("shifts with settling, this kit", Words.format("%.1f h", d.hours())));
            rows.add(new Row(
                    Words.format("   every %d subs instead of %d", every + 1, every),
                    Words.format("gives back %.1f h", d.hours() / (every + 1))));
        });
        times.focusRun().ifPresent(f -> rows.add(new Row("focus runs, this kit", Words.format("%.1f h", f.hours()))));
        return rows;
    }

    private static String lostTo(String cause) {
        return switch (cause) {
            case "" -> "what was not told";
            case Verdict.BY_HAND -> "hand";
            default -> cause;
        };
    }

    // ---- wishes
    // ------------------------------------------------------------------------------------------------------------

    ReckoningState wishes(List<Action> actions) {
        Optional<PlannedBlock> meant = plan.wishes().meant();
        List<Row> rows = new ArrayList<>();
        String verdict = "Choose a target.";
        String sentence = "What is wanted of it is told here, filter by filter.";
        if (meant.isPresent()) {
            PlannedBlock block = meant.get();
            List<FilterGoal.Gathered> wanted = block.target().goals().stream()
                    .flatMap(g -> g.gathered().stream())
                    .toList();
            double all = wanted.stream()
                    .mapToDouble(FilterGoal.Gathered::hoursWanted)
                    .sum();
            double left =
                    wanted.stream().mapToDouble(FilterGoal.Gathered::hoursLeft).sum();
            verdict = Words.format(
                    "%.1f h of %s.", block.hoursOfLight(), block.target().name());
            rows.add(new Row("tonight", block.words().isEmpty() ? "nothing" : block.words()));
            if (wanted.isEmpty()) {
                sentence = "No hours are wanted in all: each clear night may go on with it.";
            } else {
                rows.add(new Row("wanted in all", Words.format("%.1f h", all)));
                rows.add(new Row(
                        "kept before tonight",
                        Words.format(
                                "%.1f h",
                                wanted.stream()
                                        .mapToDouble(FilterGoal.Gathered::hoursKept)
                                        .sum())));
                int nights = (int) Math.ceil(left / Math.max(0.1, block.hoursOfLight()) - 1e-9);
                rows.add(new Row("nights like this one", String.valueOf(nights)));
                sentence = left <= 0
                        ? "All that was wanted is there."
                        : Words.format(
                                "%.1f h are left: %d nights, about %.1f months %s.",
                                left, nights, nights / rate().nightsAMonth(), rate().words());
            }
        }
        rows.addAll(account());
        return new ReckoningState(
                verdict,
                sentence,
                false,
                rows,
                actions,
                "Hours kept are summed from the logbook's subs by target and filter; real nights count, and where there is none those that were"
                        + " rehearsed. A filter has its turn when it has had the fewest; one that is filled, or that the Moon forbids, is"
                        + " passed over.",
                List.of());
    }

    // ---- rules
    // -------------------------------------------------------------------------------------------------------------

    ReckoningState rules(List<Action> actions) {
        Program p = plan.file().program();
        Kit kit = plan.file().kit();
        Overheads overheads = Overheads.of(kit);
        double hours = plan.draft().plan().blocks().stream()
                .mapToDouble(b -> b.span().hours())
                .sum();
        double light = plan.draft().plan().blocks().stream()
                .mapToDouble(PlannedBlock::hoursOfLight)
                .sum();
        int subs = plan.draft().plan().subs();
        double dithers = overheads.secondsOfDithers(subs, p.ditherEvery()) / 3600;
        double focus = hours / overheads.hoursPerFocus() * overheads.perFocus() / 3600;
        return new ReckoningState(
                Words.format("%.1f h of light in %.1f h.", light, hours),
                "What a rule costs stands beside it. Rules are of this night; what is wanted of a target stands above them.",
                false,
                List.of(
                        new Row("shifting between subs", Words.format("%.0f min", 60 * dithers)),
                        new Row("focus runs, about", Words.format("%.0f min", 60 * focus)),
                        new Row("reading out", Words.format("%.0f min", subs * overheads.perSub() / 60)),
                        new Row(
                                "whatever else",
                                Words.format(
                                        "%.0f min",
                                        60
                                                * Math.max(
                                                        0,
                                                        hours
                                                                - light
                                                                - dithers
                                                                - focus
                                                                - subs * overheads.perSub() / 3600)))),
                actions,
                "Costs of a dither, a focus run, a start and a flip are those that the journals of the example nights show.",
                List.of());
    }

    // ---- season
    // ------------------------------------------------------------------------------------------------------------

    ReckoningState season(List<Action> actions) {
        if (plan.targets().season().isEmpty()) {
            return ReckoningState.waiting(
                    "Weighing a year.", "Each night of the year for the night's targets and the best of each class.");
        }
        SeasonBoard board = plan.targets().season().get();
        LocalDate tonight = plan.file().program().date();
        SeasonBoard.Row row = board.rows().stream()
                .filter(r -> plan.looked().filter(o -> o == r.object()).isPresent())
                .findFirst()
                .orElse(board.rows().get(0));
        DeepSkyObject object = row.object();
        Optional<SeasonBoard.Season> season = row.season(tonight);
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("most in a night", Words.format("%.1f h", row.best())));
        season.ifPresent(s -> {
            rows.add(new Row("best from", DAY.format(s.bestFrom())));
            rows.add(new Row("last useful", DAY.format(s.lastUseful())));
        });
        KitChoice.forTarget(object, plan.profiles().kits())
                .ifPresent(k -> rows.add(new Row(
                        "kit that suits",
                        k.name() + ", " + KitChoice.fit(object, k).words())));
        double left = left(object);
        if (left > 0) {
            Optional<SeasonBoard.Goal> goal = board.nightsFor(row, left, tonight, rate().nightsAMonth());
            rows.add(new Row(
                    Words.format("%.1f h still wanted", left),
                    goal.map(g -> g.clearNights() + " clear nights, by " + DAY.format(g.reached()))
                            .orElse("not before the season ends")));
        }
        board.changeOvers()
                .forEach(c -> rows.add(new Row(
                        "from " + c.month().getDisplayName(java.time.format.TextStyle.FULL, Locale.ENGLISH),
                        c.to().words()
                                + kitFor(c.to()).map(k -> ": " + k.name()).orElse(": " + c.to().optics()))));
        rows.addAll(account());
        return new ReckoningState(
                season.map(s -> s.bestFrom().isAfter(tonight)
                                ? object.id() + " is best from " + DAY.format(s.bestFrom()) + "."
                                : object.id() + " is in season until " + DAY.format(s.lastUseful()) + ".")
                        .orElse(object.id() + " is never up in the dark here."),
                "Begin within a few days of its best date to finish in the fewest nights. Click a night to plan it; "
                        + rate().words() + ".",
                false,
                rows,
                actions,
                "Effective hours of every night of the year; the ripple is the Moon's month. Best: within 5 % of the year's most. Last "
                        + "useful: two fifths of it. A class is the mean of its thirty brightest objects that rise above 40° and fit this kit's"
                        + " field, whatever the date; a kit suits an object if it is the longest that holds it with room for cropping.",
                List.of());
    }

    /** The saved kit that suits a class: found once for a place and its kits, since the whole catalogue is gone through. */
    private Optional<Kit> kitFor(SeasonBoard.ObjectClass of) {
        List<Kit> kits = plan.profiles().kits();
        Site site = plan.file().site();
        if (!kits.equals(suitedKits) || !site.equals(suitedSite)) {
            suitedKits = kits;
            suitedSite = site;
            suited.clear();
        }
        return suited.computeIfAbsent(
                of, c -> KitChoice.forClass(c, kits, plan.wiring().objects(), site));
    }

    /** Hours that are still wanted of an object by the plan. */
    private double left(DeepSkyObject object) {
        return plan.model()
                .planned(object)
                .map(t -> t.goals().stream()
                        .flatMap(g -> g.gathered().stream())
                        .mapToDouble(FilterGoal.Gathered::hoursLeft)
                        .sum())
                .orElse(0.0);
    }
}
