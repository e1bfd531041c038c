package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.JsonText;
import app.ironside.document.NightFile;
import app.ironside.kit.Equipment;
import app.ironside.kit.Kit;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.mockito.Mockito;

class NightBudgetTest {
    private static final NightFile FILE = Examples.night(DeepSkyCatalogue.load());
    private static final NightPlan PLAN = NightPlanner.plan(FILE.site(), FILE.kit(), FILE.program());
    private static final Instant EIGHT = Instant.parse("2026-11-14T20:00:00Z");

    private static WeatherForecast weather(double temperatureC, double humidity) {
        WeatherForecast service = Mockito.mock(WeatherForecast.class, Mockito.CALLS_REAL_METHODS);
        Mockito.when(service.hours(Mockito.any())).thenAnswer(call -> {
            Interval span = call.getArgument(0);
            List<WeatherForecast.Hour> hours = new ArrayList<>();
            for (Instant t = span.from(); t.isBefore(span.until()); t = t.plusSeconds(3600)) {
                hours.add(new WeatherForecast.Hour(t, 0.5, temperatureC, humidity, 2));
            }
            return hours;
        });
        return service;
    }

    private static NightBudget budget(Kit kit, WeatherForecast weather, double freeGigabytes) {
        return NightBudget.of(new NightBudget.Given(FILE.site(), kit, PLAN, FILE.program(), weather, freeGigabytes));
    }

    /** Published: psychrometric tables, 20 °C and 50 %: dew point 9.3 °C; 0 °C and 80 %: −3.0 °C (from memory); 100 %: the temperature itself. */
    @Test
    void dewPoints() {
        assertThat(Dew.pointC(20, 0.5)).isCloseTo(9.3, within(0.05));
        assertThat(Dew.pointC(0, 0.8)).isCloseTo(-3.0, within(0.1));
        assertThat(Dew.pointC(7.5, 1)).isCloseTo(7.5, within(1e-9));
        assertThat(Dew.saturationHpa(20)).isCloseTo(23.39, within(0.1)); // published: steam tables, 23.39 hPa
    }

    /** Common practice: glass stands about 3 K below the air. By hand: 10 °C, 60 %: dew point 2.6, glass 7: dry. */
    @Test
    void wetOrWhite() {
        assertThat(Dew.risk(10, 0.6)).isEqualTo(Dew.Risk.DRY);
        assertThat(Dew.risk(10, 0.9)).isEqualTo(Dew.Risk.DEW);
        assertThat(Dew.risk(1, 0.95)).isEqualTo(Dew.Risk.FROST);
    }

    /** By hand: 186 subs or so, 12 darks of 180 s and 12 of 300 s, 16 bias, 9 flats in each of 5 filters; frames of 2 × 2800 × 2100 bytes. */
    @Test
    void filesAndDisk() {
        NightBudget budget = budget(FILE.kit(), weather(8, 0.5), 500);
        assertThat(budget.files()).isEqualTo(PLAN.subs() + 24 + 16 + 45);
        assertThat(budget.gigabytes()).isCloseTo((budget.files() + 24) * 11_760_000.0 / 1e9, within(1e-9));
        assertThat(budget.warnings()).isEmpty();
        assertThat(budget(FILE.kit(), weather(8, 0.5), 1).warnings())
                .anySatisfy(w -> assertThat(w).startsWith("The disk has 1.0 GB free and the night needs"));
    }

    /** Common practice: 12 V 5 A is too little for mount, computer and two cameras: 60 W against 109 W at the peak. */
    @Test
    void aSupplyTooSmall() {
        Kit heron = Examples.kit("heron");
        NightBudget budget = budget(heron, weather(8, 0.5), 500);
        assertThat(budget.power().orElseThrow().peakWatts()).isEqualTo(109);
        assertThat(budget.warnings())
                .contains(
                        "Peak draw is 109 W; the supply gives 60 W, and four fifths of that for hours: use a larger one or two.");
        assertThat(budget.reminders()).anySatisfy(w -> assertThat(w).contains("more than two thirds"));
    }

    /** By hand: 1000 Wh at −5 °C: 1 − 0.008 × 30 = 0.76, a fifth left in it: 608 Wh. 1300 Wh at −12 °C: 732.2; mean draw 55.5 W: 13.19 h. */
    @Test
    void batteryInTheCold() {
        assertThat(NightBudget.usableWattHours(1000, -5)).isCloseTo(608, within(1e-9));
        NightBudget budget = budget(FILE.kit(), weather(-12, 0.5), 500);
        assertThat(budget.power().orElseThrow().batteryHours().orElseThrow()).isCloseTo(13.19, within(0.01));
        assertThat(budget.warnings())
                .anySatisfy(w -> assertThat(w).startsWith("The battery lasts 13.2 h in this cold"));
    }

    @Test
    void dewIsToldWithItsHour() {
        assertThat(budget(FILE.kit(), weather(4, 0.97), 500).reminders()).anySatisfy(w -> assertThat(w)
                .matches("Dew on unheated glass from \\d\\d:\\d\\d: heaters on before then\\."));
        assertThat(budget(Examples.kit("lark"), weather(4, 0.97), 500).warnings())
                .anySatisfy(w -> assertThat(w).contains("this kit has no heater"));
    }

    /** By hand: windows 0–10, 5–20, 8–12, 30–40, 35–50: two walks, at 8 and 35. */
    @Test
    void fewestWalks() {
        List<NightBudget.Visit> visits = NightBudget.visits(
                List.of(job("a", 0, 10), job("b", 5, 20), job("c", 8, 12), job("d", 30, 40), job("e", 35, 50)));
        assertThat(visits).hasSize(2);
        assertThat(visits.get(0).at()).isEqualTo(EIGHT.plusSeconds(8));
        assertThat(visits.get(0).jobs()).containsExactlyInAnyOrder("a", "b", "c");
        assertThat(visits.get(1).at()).isEqualTo(EIGHT.plusSeconds(35));
    }

    private static NightBudget.Job job(String what, int from, int until) {
        return new NightBudget.Job(what, new Interval(EIGHT.plusSeconds(from), EIGHT.plusSeconds(until)));
    }

    /** Law: the order of a night: set up, light, calibration, bed; and the tracker needs more walks. */
    @Test
    void theClockOfANight() {
        NightBudget budget = budget(FILE.kit(), weather(8, 0.5), 500);
        assertThat(budget.setUpFrom()).isBefore(PLAN.times().nauticalDusk().orElseThrow());
        assertThat(budget.lightUntil()).isAfter(budget.setUpFrom());
        assertThat(budget.calibrationUntil()).isAfter(budget.lightUntil());
        assertThat(budget.bedtime()).isAfter(budget.calibrationUntil());
        int jobs = budget.visits().stream().mapToInt(v -> v.jobs().size()).sum();
        NightBudget tracker = budget(Examples.kit("lark"), weather(8, 0.5), 500);
        assertThat(tracker.visits().stream().mapToInt(v -> v.jobs().size()).sum())
                .isGreaterThan(jobs);
    }

    /**
     * A filter is put in for each turn of two subs of M 33 and of four of NGC 2403, but for the first of the night, which is in; one target's filters
     * after the other's are 4 and 2, one less where the filter that is in goes on. Two subs of 180 s and a walk of 180 s: of M 33's time a third goes.
     */
    @Test
    void filtersFromABoxAreWalks() {
        assertThat(FilterWalks.of(PLAN, FILE.kit(), 2))
                .as("a wheel turns by itself")
                .isEmpty();
        Kit box = byHand(FILE.kit());
        NightPlan plan = NightPlanner.plan(FILE.site(), box, FILE.program());
        List<FilterWalks.Change> walks =
                FilterWalks.of(plan, box, FILE.program().ditherEvery());
        int turns = plan.blocks().stream()
                .mapToInt(b ->
                        (b.subs() + b.target().subsPerFilter() - 1) / b.target().subsPerFilter())
                .sum();
        assertThat(walks).hasSizeBetween(turns - 1, turns);
        assertThat(walks.get(0).filter()).isEqualTo("L");
        assertThat(walks).isSortedAccordingTo(Comparator.comparing(FilterWalks.Change::at));
        double share =
                (double) plan.blocks().get(0).subs() / PLAN.blocks().get(0).subs();
        assertThat(share).as("subs of M 33 that are left of those with a wheel").isCloseTo(2.0 / 3, within(0.05));
        assertThat(FilterWalks.fewest(plan)).isEqualTo(5);
        NightBudget budget =
                NightBudget.of(new NightBudget.Given(FILE.site(), box, plan, FILE.program(), weather(8, 0.5), 500));
        assertThat(budget.warnings())
                .anyMatch(
                        w -> w.matches("Filters are changed by hand \\d+ times by this plan, \\d+ min of the night; one"
                                + " after the other it would be 5 times, 15 min\\."));
        assertThat(budget.visits().size())
                .isGreaterThan(budget(FILE.kit(), weather(8, 0.5), 500).visits().size() + 20);
    }

    private static Kit byHand(Kit kit) {
        return kit.withEquipment(JsonText.overlay(
                kit.equipment(), JsonText.newObject().put("filtersByHand", true), Equipment.class, "equipment"));
    }

    /** By hand: 1.5 GB hold 127 frames of 11.76 MB; at that share of M 33's block the card is full, and the walk is half an hour before at the latest. */
    @Test
    void aCardIsFullAndABatteryEmptyBeforeTheEnd() {
        PlannedBlock first = PLAN.blocks().get(0);
        Kit small = with("cardGigabytes", 1.5);
        Instant full = first.span()
                .from()
                .plusMillis(Math.round(first.span().duration().toMillis() * (1.5e9 / 11_760_000 / first.subs())));
        NightBudget budget = budget(small, weather(8, 0.5), 500);
        assertThat(budget.warnings())
                .contains("The camera's card of 2 GB is full at "
                        + full.atZone(FILE.site().zone())
                                .toLocalTime()
                                .withSecond(0)
                                .withNano(0)
                        + ": take a larger one, or change it then.");
        assertThat(budget.visits()).anySatisfy(v -> {
            assertThat(v.jobs()).contains("an empty card into the camera");
            assertThat(v.at()).isBetween(full.minus(Duration.ofMinutes(30)), full);
        });
        assertThat(budget(with("cardGigabytes", 64), weather(8, 0.5), 500).visits())
                .noneMatch(v -> v.jobs().contains("an empty card into the camera"));
        Kit onBattery = Examples.kit("lark");
        NightBudget short1 = budget(onBattery, weather(-5, 0.5), 500);
        double hours = short1.power().orElseThrow().batteryHours().orElseThrow();
        double night = Duration.between(short1.setUpFrom(), short1.bedtime()).toMinutes() / 60.0;
        assertThat(short1.visits().stream().anyMatch(v -> v.jobs().contains("a fresh battery")))
                .isEqualTo(hours < night);
    }

    private static Kit with(String field, double value) {
        return FILE.kit()
                .withEquipment(JsonText.overlay(
                        FILE.kit().equipment(), JsonText.newObject().put(field, value), Equipment.class, "equipment"));
    }
}
