package app.ironside.app;

import java.util.List;

/** {@code ./ironside}: the desk without a verb or with {@code demo}, else the command line. */
public final class Main {
    private Main() {}

    public static void main(String[] arguments) throws InterruptedException {
        if (List.of(arguments).contains(DryStart.WORD)) {
            DryStart.run();
        } else if (List.of(arguments).isEmpty() || arguments[0].equals("demo")) {
            app.ironside.desk.Main.main(arguments);
        } else {
            app.ironside.cli.Main.main(arguments);
        }
    }
}
