package app.ironside.desk.plan;

import app.ironside.desk.night.RibbonState;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.reckon.Intent;
import app.ironside.device.DeviceDriver;
import app.ironside.document.NightDraft;
import app.ironside.document.NightFile;
import app.ironside.document.NightPack;
import app.ironside.document.PlanModel;
import app.ironside.document.ReadyList;
import app.ironside.document.RehearsedFault;
import app.ironside.kit.Kit;
import app.ironside.logbook.Profiles;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.NightBudget;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.TargetLight;
import app.ironside.plan.TargetPlan;
import app.ironside.plan.WeatherTable;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Site;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;

/**
 * The night that is being planned: its draft with undo, what is looked at, and what was computed for it in the background. Interface
 * thread only.
 */
public final class PlanDesk implements AutoCloseable {
    /** What the middle of the station shows. */
    public enum Tab {
        TONIGHT("Tonight"),
        WISHES("Wishes"),
        FRAMING("Framing"),
        SEASON("Season"),
        EXPOSURE("Exposure"),
        COSTS("Costs"),
        RULES("Rules"),
        REHEARSAL("Rehearsal"),
        PROFILES("Site and kit");

        private final String title;

        Tab(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    static final int NO_BLOCK = -1;

    private final Wiring wiring;
    private final Profiles profiles;
    private final Runnable changed;
    private final Rehearsals rehearsals;
    private final Wishes wishes;
    private final TargetBoard targets;
    private final PlanOrders orders;
    private final Arranging arranging = new Arranging(this);
    private final Blocks blocks = new Blocks(this);
    private final Framings framings = new Framings(this);
    private final PlanDrawing drawing;
    private final BackgroundWork work = new BackgroundWork("plan");
    private final BackgroundWork editing = new BackgroundWork("changes of the plan");
    private final BackgroundWork trying = new BackgroundWork("trying a device");

    private PlanModel model;

    private final Forecasts forecasts = new Forecasts();
    private final List<Path> filesRead = new ArrayList<>();
    private Tab tab = Tab.TONIGHT;
    private String message = "";
    private int ticket;
    private boolean busy;
    private int replanning;

    /** Who runs a plan. */
    public interface Runner {
        void rehearse(NightFile night);

        void begin(NightFile night);
    }

    /**
     * @param account what earlier nights left
     */
    public PlanDesk(
            Wiring wiring, Profiles profiles, Path folder, Wishes.Record account, Runnable changed, Runner runner) {
        this.wiring = wiring;
        this.profiles = profiles;
        this.changed = changed;
        this.orders = new PlanOrders(this, runner);
        this.rehearsals = new Rehearsals(wiring, changed);
        this.wishes = new Wishes(this, account);
        this.targets = new TargetBoard(this, wiring, profiles);
        this.drawing = new PlanDrawing(this, folder, changed);
    }

    /** Tries the camera of the kit. */
    TrialBar trial() {
        return new TrialBar(wiring, trying, this::file, kit -> use(file().site(), kit));
    }

    /** Finds where the kit touches. */
    ContactBar contacts() {
        return new ContactBar(wiring, trying, this::file, kit -> use(file().site(), kit));
    }

    /** What is wanted of targets. */
    Wishes wishes() {
        return wishes;
    }

    /** What could be taken. */
    public TargetBoard targets() {
        return targets;
    }

    /** The best times for what is planned. */
    public Arranging arranging() {
        return arranging;
    }

    /** The blocks, as hands move them. */
    public Blocks blocks() {
        return blocks;
    }

    /** How the camera lies on each object. */
    public Framings framings() {
        return framings;
    }

    PlanDrawing drawing() {
        return drawing;
    }

    PlanModel model() {
        return model;
    }

    /** What can connect devices. */
    List<DeviceDriver> drivers() {
        return wiring.drivers();
    }

    // ---- what there is
    // -------------------------------------------------------------------------------------------------

    public boolean isOpen() {
        return model != null;
    }

    /** Plans a night anew; earlier changes are forgotten. */
    public void open(PlanStart start) {
        model = new PlanModel(wiring.objects(), start.draft());
        arranging.forget();
        drawing.clear();
        started(start);
    }

    public NightDraft draft() {
        return model.draft();
    }

    public NightFile file() {
        return draft().file();
    }

    Tab tab() {
        return tab;
    }

    public void setTab(Tab next) {
        tab = next;
        if (next == Tab.SEASON || next == Tab.WISHES || next == Tab.FRAMING) {
            wishes.lookUp();
        }
        targets.needSeason();
        changed();
    }

    public Optional<DeepSkyObject> looked() {
        return model.looked();
    }

    /** The target of the plan that is chosen, or looked at. */
    Optional<TargetPlan> chosenOrLooked() {
        return model.meantTarget();
    }

    Optional<PlannedBlock> chosenBlock() {
        return model.chosenBlock();
    }

    public boolean isBusy() {
        return busy;
    }

    /** The last thing that went wrong, in words; empty if nothing. */
    String message() {
        return message;
    }

    Wiring wiring() {
        return wiring;
    }

    public Profiles profiles() {
        return profiles;
    }

    /** What is foreseen of the night. */
    Forecasts forecasts() {
        return forecasts;
    }

    /** Clouds that are foreseen. */
    CloudForecast clouds() {
        return forecasts.clouds(draft());
    }

    public RibbonState ribbon() {
        return drawing.drawn().orElseThrow().ribbon();
    }

    /** What the night costs, as far as that is reckoned. */
    public NightBudget budget() {
        return drawing.drawn().orElseThrow().budget();
    }

    /** Whether there is anything drawn of a plan. */
    public boolean isDrawn() {
        return drawing.drawn().isPresent();
    }

    /** Whether everything that was asked of the plan is done and drawn. */
    public boolean isSettled() {
        return editing.isIdle() && framings.isIdle() && replanning == 0 && drawing.isSettled();
    }

    NightPack pack() {
        return new NightPack(file(), draft().plan(), budget(), readyList());
    }

    public ReadyList readyList() {
        return ReadyList.of(file().site(), file().kit(), file().program(), profiles.lessons());
    }

    // ---- background
    // ----------------------------------------------------------------------------------------------------

    private void started(PlanStart start) {
        drawing.setSky(start.sky());
        forecasts.setService(start.weather());
        wishes.lookUp();
        targets.renew();
        changed();
    }

    /** Tells the views, and has what follows from the draft reckoned. */
    void changed() {
        changed.run();
        drawing.refresh();
    }

    /**
     * A change of the plan, reckoned beside the interface. If another came in between, this one is made on top of it.
     *
     * @param then told when it is done
     */
    void edit(UnaryOperator<NightDraft> step, Runnable then) {
        NightDraft from = model.workedOn();
        editing.ask(progress -> step.apply(from)).failed(this::say).then(next -> {
            if (model.settled() != from) {
                edit(step, then);
            } else if (next != from) {
                model.change(next);
                // What was said of the arranged plan is of that plan.
                arranging.forget();
                message = "";
                then.run();
                changed();
            } else {
                changed();
            }
        });
    }

    void edit(UnaryOperator<NightDraft> step) {
        edit(step, () -> {});
    }

    /** Computes in the background; the answer to a question of another night is dropped. */
    <T> void compute(Supplier<T> question, Consumer<T> answer) {
        int asked = ++ticket;
        NightDraft of = model.settled();
        busy = true;
        work.ask(progress -> question.get())
                .failed(why -> say("This could not be computed: " + why))
                .then(result -> {
                    busy = asked != ticket;
                    if (model.isSameNight(of)) {
                        answer.accept(result);
                    }
                    changed();
                });
    }

    /** Something came to nothing, and why. */
    void say(String text) {
        busy = false;
        note(text);
    }

    /** Says something, while whatever is being reckoned goes on; nothing takes back what was said. */
    void note(String text) {
        message = text;
        changed();
    }

    // ---- what the person does
    // ----------------------------------------------------------------------------------------

    /** After a step back or forward: of another night, everything is reckoned again. */
    private void afterStep(NightDraft before) {
        boolean sameNight = model.isSameNight(before)
                && before.file().program().minimumAltitudeDeg()
                        == file().program().minimumAltitudeDeg();
        if (sameNight) {
            changed();
        } else {
            NightDraft now = model.settled();
            compute(() -> PlanStart.of(wiring, now), this::started);
        }
    }

    boolean canUndo() {
        return model.canUndo();
    }

    boolean canRedo() {
        return model.canRedo();
    }

    public void undo() {
        if (model.isProposed()) {
            arranging.leave();
            return;
        }
        NightDraft before = model.settled();
        model.undo();
        arranging.forget();
        afterStep(before);
    }

    public void redo() {
        NightDraft before = model.settled();
        model.redo();
        afterStep(before);
    }

    /** Says something about the plan. */
    public void tell(String text) {
        say(text);
    }

    void setDate(LocalDate date) {
        model.choose(NO_BLOCK);
        arranging.forget();
        replan(now -> now.onDate(date));
    }

    void use(Site site, Kit kit) {
        model.choose(NO_BLOCK);
        model.forgetFramings();
        replan(now -> now.with(site, kit));
    }

    /** Another date, place or kit: the whole night is reckoned anew, beside the interface. Changes made meanwhile come after. */
    private void replan(UnaryOperator<NightDraft> step) {
        NightDraft from = model.workedOn();
        busy = true;
        replanning++;
        work.ask(progress -> PlanStart.of(wiring, step.apply(from)))
                .failed(why -> {
                    replanning--;
                    say(why);
                })
                .then(start -> {
                    replanning--;
                    busy = false;
                    // What was changed while this was reckoned is changed again on top of it.
                    if (model.settled() != from) {
                        replan(step);
                        return;
                    }
                    message = "";
                    model.change(start.draft());
                    started(start);
                });
        changed();
    }

    /** The sub length of the chosen block, or of the first one of the target that is looked at. */
    public Optional<Double> plannedSubSeconds() {
        return model.subSeconds();
    }

    /** Another sub length for the chosen block, or for all of the target that is looked at. */
    public void setSubSeconds(double seconds) {
        edit(model.withSubSeconds(seconds));
    }

    /** Other rules of the night; a step that can be taken back. */
    void setRules(UnaryOperator<Program> change) {
        double before = file().program().minimumAltitudeDeg();
        edit(now -> now.withProgram(change.apply(now.file().program())), () -> {
            if (file().program().minimumAltitudeDeg() != before) {
                targets.rank();
            }
        });
    }

    /** Tables that were read for this plan: nothing is saved over them. */
    List<Path> filesRead() {
        return List.copyOf(filesRead);
    }

    /** Reads a table of the weather that somebody foresees, beside the interface. */
    public void readForecast(Path csv) {
        filesRead.add(csv);
        NightDraft now = draft();
        editing.ask(progress -> Forecasts.parse(csv, now)).failed(this::say).then(this::takeForecast);
    }

    /** Another forecast: everything that follows from the weather is reckoned anew. */
    void takeForecast(WeatherTable table) {
        message = forecasts.take(table, draft());
        weatherChanged();
    }

    public void forgetForecast() {
        forecasts.forget();
        weatherChanged();
    }

    private void weatherChanged() {
        targets.rank();
        changed();
    }

    /** Does something that takes its time, such as writing a file, beside the interface. */
    void beside(Runnable work, Runnable then, Consumer<String> failed) {
        editing.ask(progress -> {
                    work.run();
                    return true;
                })
                .failed(failed)
                .then(done -> then.run());
    }

    /** Saves a profile; what differs from the saved ones is another then. */
    void saveProfile(Consumer<Profiles> save) {
        editing.ask(progress -> {
                    save.accept(profiles);
                    return profiles;
                })
                .failed(this::say)
                .then(saved -> changed());
    }

    /** Carries out what a button or a card of the right column is for. */
    public void obey(Intent intent) {
        orders.carryOut(intent);
    }

    Rehearsals rehearsals() {
        return rehearsals;
    }

    /** Whether the plan is being rehearsed without pixels. */
    public boolean isRehearsing() {
        return rehearsals.isBusy();
    }

    /** Changes what is to go wrong in rehearsals; a step that can be taken back. */
    public void setFaults(Consumer<List<RehearsedFault>> change) {
        edit(Rehearsals.with(change));
    }

    /** The plan as a night is begun with it: with the lessons that were learnt. */
    NightFile toRun() {
        return model.workedOn().withLessons(profiles.lessons()).file();
    }

    /** Whether an object's light reaches the sensor at all. */
    boolean lightIsSeen(DeepSkyObject object) {
        return TargetLight.of(object.kind()).seenBy(file().kit());
    }

    @Override
    public void close() {
        work.close();
        editing.close();
        drawing.close();
        framings.close();
        rehearsals.close();
        wishes.close();
        trying.close();
    }
}
