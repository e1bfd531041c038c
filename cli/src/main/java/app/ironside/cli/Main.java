package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.FaultReport;
import app.ironside.Printable;
import app.ironside.Version;
import app.ironside.device.DeviceException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import java.util.concurrent.CancellationException;
import org.slf4j.bridge.SLF4JBridgeHandler;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.TypeConversionException;

/** The verbs of {@code ./ironside VERB}. */
@Command(
        name = "ironside",
        description =
                "One piece of Ironside's work with no window. Without a verb ./ironside opens the desktop application.",
        subcommands = {
            NightVerb.class,
            TargetVerb.class,
            StarsVerb.class,
            SolveVerb.class,
            PolarVerb.class,
            FocusVerb.class,
            MaskVerb.class,
            GuidingVerb.class,
            MasterVerb.class,
            CalibrateVerb.class,
            GradeVerb.class,
            SortVerb.class,
            DarkroomVerb.class,
            CombineVerb.class,
            WatchVerb.class,
            StackVerb.class,
            RehearseVerb.class,
            BackupVerb.class,
            RestoreVerb.class,
            ReportVerb.class
        },
        mixinStandardHelpOptions = true,
        versionProvider = Main.Told.class)
public final class Main {
    /** For {@code --version}. */
    static final class Told implements CommandLine.IVersionProvider {
        @Override
        public String[] getVersion() {
            return new String[] {Version.current().toString()};
        }
    }

    private static final int BAD_INPUT = 2;
    private static final int OWN_FAULT = 3;

    /** What shells give for a process that was interrupted: 128 and the number of the signal. */
    private static final int INTERRUPTED = 130;

    private Main() {}

    public static void main(String[] arguments) {
        SLF4JBridgeHandler.removeHandlersForRootLogger();
        SLF4JBridgeHandler.install();
        Interruption interruption = Interruption.ofThisThread();
        int code = run(arguments, new PrintWriter(System.out, true), new PrintWriter(System.err, true));
        interruption.over();
        System.exit(code);
    }

    /** Runs one call and returns its exit code. */
    public static int run(String[] arguments, PrintWriter out, PrintWriter err) {
        CommandLine line = new CommandLine(new Main());
        line.registerConverter(LocalDate.class, Main::date);
        line.setOut(out);
        line.setErr(err);
        line.setParameterExceptionHandler((e, args) -> badUsage(e, err));
        line.setExecutionExceptionHandler((e, command, result) -> failed(e, err));
        if (arguments.length == 0) {
            line.usage(out);
            return BAD_INPUT;
        }
        try {
            return line.execute(arguments);
        } catch (OutOfMemoryError e) {
            err.println("ironside: "
                    + Printable.line(String.join(" ", arguments).replaceAll("\\s+", " "))
                    + String.format(
                            Locale.ROOT,
                            ": needs more than the %.1f GB of memory that are allowed; expected smaller or fewer files, or more memory by %s",
                            Runtime.getRuntime().maxMemory() / 1e9,
                            String.join(" ", arguments).contains("--max-memory")
                                    ? "a larger --max-memory"
                                    : "setting IRONSIDE_MEMORY (for instance 8g)"));
            err.flush();
            return BAD_INPUT;
        } catch (StackOverflowError | LinkageError e) {
            return ownFault(e, err);
        }
    }

    private static LocalDate date(String text) {
        try {
            return LocalDate.parse(text);
        } catch (DateTimeParseException e) {
            throw new TypeConversionException("\"" + Printable.line(text) + "\" is no date; expected YYYY-MM-DD");
        }
    }

    private static int badUsage(ParameterException e, PrintWriter err) {
        err.println("ironside: " + Printable.line(plain(e.getMessage())) + "; see --help");
        err.flush();
        return BAD_INPUT;
    }

    /** The parser names Java's kinds of numbers, which nobody has to know. */
    private static String plain(String message) {
        return message.replaceAll("is not an? (long|int|short)\\b", "is not a whole number")
                .replaceAll("is not an? (double|float)\\b", "is not a number");
    }

    private static int failed(Exception e, PrintWriter err) {
        if (e instanceof InterruptedException || e instanceof CancellationException) {
            err.println("ironside: interrupted; nothing is left half-written");
            err.flush();
            return INTERRUPTED;
        }
        if (e instanceof BadInputException || e instanceof UncheckedIOException || e instanceof DeviceException) {
            err.println("ironside: " + Printable.line(e.getMessage()));
            err.flush();
            return BAD_INPUT;
        }
        return ownFault(e, err);
    }

    /** In the folder for what is temporary: a verb leaves nothing in anybody's own. */
    private static int ownFault(Throwable e, PrintWriter err) {
        Path folder = Path.of(System.getProperty("java.io.tmpdir"));
        err.println("ironside: a fault of Ironside itself, " + Printable.line(e.getMessage())
                + new FaultReport(folder, Clock.systemUTC())
                        .write(e, "command line")
                        .map(p -> "; the report is in " + p)
                        .orElse("; no report could be written"));
        err.flush();
        return OWN_FAULT;
    }
}
