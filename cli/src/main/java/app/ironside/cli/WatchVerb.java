package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.TextFiles;
import app.ironside.Workers;
import app.ironside.device.NightClock;
import app.ironside.image.FolderWatch;
import app.ironside.image.FrameFiles;
import app.ironside.judge.Grade;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.Site;
import app.ironside.sky.SiteFile;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import app.ironside.watch.Alert;
import app.ironside.watch.Episodes;
import app.ironside.watch.Finding;
import app.ironside.watch.FolderNight;
import app.ironside.wiring.Wiring;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "watch",
        description =
                "Judges lights as they arrive in a folder, from whatever program, until interrupted; says what goes wrong. With --json"
                        + " one object a line, whose \"kind\" is frame, finding, alert or unusable.")
final class WatchVerb extends Verb {
    private static final Duration EVERY = Duration.ofMillis(500);

    @Parameters(
            paramLabel = "FOLDER",
            description = "The folder, with the folders in it. What is there already is judged first.")
    private Path folder;

    @Option(names = "--kit", paramLabel = "FILE", description = "A kit file: the scale, where frames do not tell it.")
    private Path kitFile;

    @Option(names = "--site", paramLabel = "FILE", description = "A site file: the place, where frames do not tell it.")
    private Path siteFile;

    @Option(
            names = "--until-quiet",
            paramLabel = "SECONDS",
            description = "End when no new frame has come for so long, for use on a folder that is complete.")
    private Double untilQuiet;

    @Override
    Answer answer() throws InterruptedException {
        if (!Files.isDirectory(folder)) {
            throw new BadInputException(
                    folder.toString(), "there is no such folder", "the folder that frames come into");
        }
        if (untilQuiet != null && !(untilQuiet >= 1 && untilQuiet <= 86_400)) {
            throw badOption("--until-quiet", "is " + untilQuiet, "seconds, 1 to 86400");
        }
        Optional<Kit> kit = Optional.ofNullable(kitFile)
                .map(f -> KitFile.parse(TextFiles.read(f, "a kit file as in examples/kits"), f.toString()));
        Optional<Site> site = Optional.ofNullable(siteFile)
                .map(f -> SiteFile.parse(TextFiles.read(f, "a site file as in examples/sites"), f.toString()));
        FolderNight night = new FolderNight(
                new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES),
                site,
                kit.isPresent() ? OptionalDouble.of(kit.get().arcsecPerPixel()) : OptionalDouble.empty());
        ZoneId zone = site.map(Site::zone).orElse(ZoneOffset.UTC);
        NightClock clock = Wiring.liveClock();
        FolderWatch watch = FolderWatch.fromTheStart(folder, FrameFiles::isFrame);
        int frames = 0;
        int kept = 0;
        Duration quiet = Duration.ZERO;
        while (untilQuiet == null || quiet.toMillis() < 1000 * untilQuiet) {
            boolean came = false;
            for (Path file : watch.next()) {
                came = true;
                Optional<FolderNight.Step> step = take(night, file, clock);
                if (step.isPresent()) {
                    frames++;
                    kept += step.get().grade().keep() ? 1 : 0;
                    tell(step.get(), zone);
                }
            }
            tell(night.silence(clock.now()), zone);
            quiet = came ? Duration.ZERO : quiet.plus(EVERY);
            clock.await(EVERY);
        }
        return Answer.done(Answer.facts("kind", "end", "frames", frames, "kept", kept));
    }

    private Optional<FolderNight.Step> take(FolderNight night, Path file, NightClock clock) {
        try {
            return night.take(file, clock.now());
        } catch (BadInputException | UncheckedIOException e) {
            line(Answer.facts("kind", "unusable", "file", file.toString(), "reason", e.getMessage()));
            return Optional.empty();
        }
    }

    private void tell(FolderNight.Step step, ZoneId zone) {
        line(frame(step.grade(), false));
        step.changed().forEach(g -> line(frame(g, true)));
        tell(step.news(), zone);
    }

    private void tell(Episodes.News news, ZoneId zone) {
        for (Finding f : news.findings()) {
            line(Answer.facts(
                    "kind", "finding",
                    "time", time(f.since(), zone),
                    "cause", f.trouble().word(),
                    "certainty", rounded(f.certainty(), 2),
                    "sentence", f.sentence(),
                    "remedy", f.trouble().remedy(),
                    "framesLost", f.framesLost()));
        }
        for (Alert a : news.alerts()) {
            line(Answer.facts(
                    "kind", "alert", "time", time(a.time(), zone), "severity", a.severity(), "sentence", a.sentence()));
        }
    }

    private static Map<String, Object> frame(Grade grade, boolean again) {
        Map<String, Object> facts = Answer.facts("kind", "frame", "again", again);
        facts.putAll(GradeVerb.facts(grade));
        return facts;
    }
}
