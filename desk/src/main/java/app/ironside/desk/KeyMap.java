package app.ironside.desk;

import app.ironside.Version;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.Slider;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/**
 * What the keys do. Some mean the same wherever the focus is: buttons and scroll panes would take Space and the arrows for themselves.
 * Enter presses a button instead. What is written into keeps its keys, and sliders and lists their arrows.
 */
final class KeyMap {
    /** What keys can ask for. */
    interface Doer {
        /** Whether a question is over the desk, which has the keys then. */
        boolean isAsking();

        /** The night's question is answered; where nothing is asked, the clock of a rehearsal is stopped or goes on. */
        void toggleFreeze();

        /** To the event before or after; false where something else is over the night. */
        boolean step(int direction);

        /** Takes back a change of the plan, or does it again; false where nothing is planned. */
        boolean changeBack(boolean again);

        void toggleKeys();

        void toggleHelp();

        void station(int digit);

        /** A letter of a station's own; false if it has none. */
        boolean letter(KeyCode code);

        void backToNow();

        void nextPalette();

        void picture(PictureKey key);

        void chooseFrame();

        void showStars();

        void showDarkroom();

        void showTelling();

        void closeTop();

        /** All larger (1), smaller (-1), or as it was made (0). */
        void magnify(int direction);
    }

    /** What is done to the picture on the bench. */
    enum PictureKey {
        FIT,
        RINGS,
        NEARER,
        FURTHER
    }

    private final Doer doer;
    private boolean spaceHeld;

    KeyMap(Doer doer) {
        this.doer = doer;
    }

    /** Takes the keys of a node: before what has the focus, and after it. */
    void attach(Node desk) {
        desk.addEventFilter(KeyEvent.KEY_PRESSED, e -> before(desk, e));
        desk.addEventHandler(KeyEvent.KEY_PRESSED, this::after);
        desk.addEventFilter(KeyEvent.KEY_RELEASED, e -> spaceHeld &= e.getCode() != KeyCode.SPACE);
    }

    /** The list for the person. */
    static VBox list() {
        VBox box = new VBox();
        box.getStyleClass().add("keys");
        box.setId("list-of-keys");
        box.setMaxHeight(Region.USE_PREF_SIZE);
        Label heading = new Label("Keys");
        heading.getStyleClass().add("verdict");
        box.getChildren().add(heading);
        for (String line : List.of(
                "1 to 9, 0   the stations, from Plan to Logbook",
                "Space   what your hands were asked for is done, or so; else stop the rehearsal's clock, or let it run",
                "X   what you were asked to look at is not so",
                "H   rest the night at its next safe point, or let it go on",
                "W, Q   end the night; park now",
                "letters   what the buttons of a station say under the pointer",
                "Enter   press what has the focus",
                "← →   the event before, the event after",
                "N   back to now, and to the night that runs",
                "P   the next palette",
                "F   fit the picture",
                "S   ring the measured stars",
                "O   look closely at a FITS, TIFF or JPEG file (or drop one here)",
                "V   develop folders of frames, whoever took them (or drop one here); there S is the contact sheet, K keeps or leaves out",
                "G   the stars to go by: how many, and adding more",
                "Y   how the night tells you: tone, notification, a program, a page for the telephone",
                "+ −   zoom the picture",
                "Ctrl Z, Ctrl Y   take back a change of the plan, or of subs marked at Run; do it again",
                "Ctrl +, Ctrl −, Ctrl 0   everything larger, smaller, as it was",
                "F1   what the station is for",
                "?   this list, and away with it")) {
            box.getChildren().add(new Label(line));
        }
        Label version = new Label(Version.current().toString());
        version.getStyleClass().add("dim");
        version.setId("version");
        box.getChildren().add(version);
        return box;
    }

    private void before(Node desk, KeyEvent e) {
        Node target = e.getTarget() instanceof Node node ? node : desk;
        if (doer.isAsking() || target instanceof TextInputControl || isWithin(target, Spinner.class)) {
            return;
        }
        boolean ownArrows = isWithin(target, Slider.class)
                || isWithin(target, ComboBoxBase.class)
                || isWithin(target, ListView.class);
        boolean taken =
                switch (e.getCode()) {
                    case SPACE -> done(this::space);
                    case LEFT -> !ownArrows && doer.step(-1);
                    case RIGHT -> !ownArrows && doer.step(1);
                    case ENTER -> target instanceof ButtonBase button && !button.isDisabled() && done(button::fire);
                    default -> false;
                };
        if (taken) {
            e.consume();
        }
    }

    /** Once for each press: a key that is held down answers no question after the first. */
    private void space() {
        if (!spaceHeld) {
            spaceHeld = true;
            doer.toggleFreeze();
        }
    }

    private static boolean done(Runnable what) {
        what.run();
        return true;
    }

    private static boolean isWithin(Node node, Class<?> kind) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (kind.isInstance(at)) {
                return true;
            }
        }
        return false;
    }

    private void after(KeyEvent e) {
        if (e.getTarget() instanceof TextInputControl || doer.isAsking()) {
            return;
        }
        if (taken(e)) {
            e.consume();
        }
    }

    private boolean taken(KeyEvent e) {
        if (e.isShortcutDown()) {
            return switch (e.getCode()) {
                case Z -> doer.changeBack(false);
                case Y -> doer.changeBack(true);
                case PLUS, EQUALS, ADD -> done(() -> doer.magnify(1));
                case MINUS, SUBTRACT -> done(() -> doer.magnify(-1));
                case DIGIT0, NUMPAD0 -> done(() -> doer.magnify(0));
                default -> false;
            };
        }
        if (e.getCode() == KeyCode.F1) {
            return done(doer::toggleHelp);
        }
        if ("?".equals(e.getText()) || e.getCode() == KeyCode.QUOTE && e.isShiftDown()) {
            return done(doer::toggleKeys);
        }
        if (e.getCode().isDigitKey()) {
            Optional<Integer> digit = Optional.of(e.getText())
                    .filter(t -> !t.isEmpty())
                    .map(t -> t.charAt(0) - '0')
                    .filter(d -> d >= 0 && d <= 9);
            digit.ifPresent(doer::station);
            return digit.isPresent();
        }
        if (doer.letter(e.getCode())) {
            return true;
        }
        return switch (e.getCode()) {
            case N -> done(doer::backToNow);
            case P -> done(doer::nextPalette);
            case F -> done(() -> doer.picture(PictureKey.FIT));
            case S -> done(() -> doer.picture(PictureKey.RINGS));
            case PLUS, EQUALS -> done(() -> doer.picture(PictureKey.NEARER));
            case MINUS -> done(() -> doer.picture(PictureKey.FURTHER));
            case O -> done(doer::chooseFrame);
            case G -> done(doer::showStars);
            case Y -> done(doer::showTelling);
            case V -> done(doer::showDarkroom);
            case ESCAPE -> done(doer::closeTop);
            default -> false;
        };
    }
}
