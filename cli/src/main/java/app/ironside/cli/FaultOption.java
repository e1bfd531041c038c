package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import java.time.DateTimeException;
import java.time.LocalTime;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A fault as it is written on the command line. */
final class FaultOption {
    private static final Pattern SHAPE = Pattern.compile("([a-z-]+)@(\\d\\d:\\d\\d)(?:\\+(\\d{1,4}))?");

    private FaultOption() {}

    /**
     * @param text KIND@HH:MM or KIND@HH:MM+MINUTES
     * @throws BadInputException saying what it should be
     */
    static RehearsedFault parse(String text) {
        Matcher parts = SHAPE.matcher(text);
        if (!parts.matches()) {
            throw new BadInputException(
                    "option --fault",
                    "is \"" + text + "\"",
                    "KIND@HH:MM or KIND@HH:MM+MINUTES, for instance dew@23:40+60");
        }
        try {
            return new RehearsedFault(
                    FaultKind.of(parts.group(1)),
                    LocalTime.parse(parts.group(2)),
                    Optional.ofNullable(parts.group(3)).map(Double::valueOf),
                    Optional.empty());
        } catch (DateTimeException e) {
            throw new BadInputException(
                    "option --fault", "has the time " + parts.group(2), "00:00 to 23:59, for instance dew@23:40+60", e);
        } catch (IllegalArgumentException e) {
            throw new BadInputException("option --fault", e.getMessage(), "for instance dew@23:40+60", e);
        }
    }
}
