package app.ironside.desk.parts;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/**
 * Chooses files over the desk, in the desk's own colours: the system's file windows are white, and undo an hour of getting used to the
 * dark. Paths can be typed; folders are listed beside the interface.
 */
public final class FilePane extends StackPane {
    private static final DateTimeFormatter WHEN =
            DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm").withZone(ZoneId.systemDefault());
    private static final int MOST_LISTED = 5000;

    /** Where something of a kind was chosen last, until the desk is closed. */
    private static final Map<String, Path> LAST = new HashMap<>();

    /** What is wanted. */
    public enum Kind {
        OPEN("Open"),
        OPEN_MANY("Open"),
        SAVE("Save"),
        FOLDER("Take this folder");

        private final String word;

        Kind(String word) {
            this.word = word;
        }
    }

    /**
     * A question for files.
     *
     * @param endings of the files that are listed, in lower case with the dot; empty for all
     * @param name proposed for a file to be saved
     * @param start where to begin, if nothing of the kind was chosen before
     */
    public record Ask(Kind kind, String title, List<String> endings, String name, Optional<Path> start) {
        /** Files to be opened. */
        public static Ask open(Kind kind, String title, String... endings) {
            return new Ask(kind, title, List.of(endings), "", Optional.empty());
        }

        /** A place for a file. */
        public static Ask save(String title, String name, Optional<Path> start) {
            return new Ask(Kind.SAVE, title, List.of(), name, start);
        }

        private boolean lists(String name) {
            String plain = name.toLowerCase(Locale.ROOT);
            return kind != Kind.FOLDER && (endings.isEmpty() || endings.stream().anyMatch(plain::endsWith));
        }
    }

    /** Something in a folder. */
    private record Entry(Path path, boolean folder, long bytes, String when) {
        static Entry of(Path path) {
            try {
                boolean folder = Files.isDirectory(path);
                return new Entry(
                        path,
                        folder,
                        folder ? 0 : Files.size(path),
                        WHEN.format(Files.getLastModifiedTime(path).toInstant()));
            } catch (IOException e) {
                return new Entry(path, false, 0, "");
            }
        }
    }

    private final Ask ask;
    private final Consumer<List<Path>> then;
    private final BackgroundWork work = new BackgroundWork("folder");
    private final TextField place = new TextField();
    private final TextField name = new TextField();
    private final Label said = new Label();
    private final ListView<Entry> list = new ListView<>();
    private final Button take = new Button();
    private Path folder;

    private FilePane(Ask ask, Consumer<List<Path>> then) {
        this.ask = ask;
        this.then = then;
        this.folder = Optional.ofNullable(LAST.get(ask.title()))
                .or(ask::start)
                .orElse(Path.of(System.getProperty("user.home")));
        setId("files");
        Label title = new Label(ask.title());
        title.getStyleClass().add("verdict");
        Button up = new Button("Up");
        up.setId("files-up");
        up.setOnAction(e -> Optional.ofNullable(folder.getParent()).ifPresent(this::go));
        place.setId("files-place");
        place.setOnAction(e -> typed(place.getText()));
        HBox.setHgrow(place, Priority.ALWAYS);
        list.setId("files-list");
        list.getSelectionModel()
                .setSelectionMode(ask.kind() == Kind.OPEN_MANY ? SelectionMode.MULTIPLE : SelectionMode.SINGLE);
        list.setCellFactory(view -> new Cell());
        list.setPlaceholder(new Label("Nothing of the kind is here."));
        list.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                enter();
            }
        });
        list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> picked(is));
        VBox.setVgrow(list, Priority.ALWAYS);
        name.setId("files-name");
        name.setText(ask.name());
        name.textProperty().addListener((o, was, is) -> takeable());
        name.setOnAction(e -> take());
        name.setVisible(ask.kind() == Kind.SAVE);
        name.setManaged(ask.kind() == Kind.SAVE);
        said.getStyleClass().add("warning");
        said.setWrapText(true);
        Button cancel = new Button("Cancel");
        cancel.setId("files-cancel");
        cancel.setOnAction(e -> close());
        take.setId("files-take");
        take.getStyleClass().add("chief");
        take.setOnAction(e -> take());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox buttons = new HBox(8, said, gap, cancel, take);
        buttons.setAlignment(Pos.CENTER_RIGHT);
        VBox box = new VBox(10, title, new HBox(8, up, place), list, name, buttons);
        box.getStyleClass().addAll("keys", "files");
        box.setMaxSize(760, 560);
        getChildren().add(box);
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        go(folder);
    }

    /**
     * Asks over the desk that a node lies on.
     *
     * @param then is given what was chosen; not called if nothing was
     */
    public static void ask(Node on, Ask ask, Consumer<List<Path>> then) {
        FilePane pane = new FilePane(ask, then);
        ((Pane) on.getScene().getRoot()).getChildren().add(pane);
        pane.focus();
    }

    private void focus() {
        (ask.kind() == Kind.SAVE ? name : list).requestFocus();
    }

    private void key(KeyEvent e) {
        if (e.getCode() == KeyCode.ESCAPE) {
            close();
        } else if (e.getCode() == KeyCode.ENTER && list.isFocused()) {
            enter();
        } else if (e.getCode() == KeyCode.BACK_SPACE && list.isFocused()) {
            Optional.ofNullable(folder.getParent()).ifPresent(this::go);
        } else {
            return;
        }
        e.consume();
    }

    /** Lists a folder; one that cannot be listed is told of, and the one before stays. */
    private void go(Path next) {
        said.setText("");
        work.ask(progress -> listed(next, ask))
                .onlyNewest()
                .failed(said::setText)
                .then(entries -> {
                    folder = next;
                    place.setText(next.toString());
                    list.getItems().setAll(entries);
                    takeable();
                });
    }

    private static List<Entry> listed(Path folder, Ask ask) {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(f -> !f.getFileName().toString().startsWith("."))
                    .map(Entry::of)
                    .filter(e -> e.folder() || ask.lists(e.path().getFileName().toString()))
                    .sorted(Comparator.comparing((Entry e) -> !e.folder())
                            .thenComparing(
                                    e -> e.path().getFileName().toString().toLowerCase(Locale.ROOT)))
                    .limit(MOST_LISTED)
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " cannot be looked into", e);
        }
    }

    /** A path that was typed: a folder is gone to, a file is taken. */
    private void typed(String text) {
        try {
            Path path = folder.resolve(text.strip());
            work.ask(progress -> Entry.of(path)).failed(said::setText).then(entry -> {
                if (entry.folder()) {
                    go(path);
                } else if (ask.kind() == Kind.SAVE) {
                    name.setText(path.getFileName().toString());
                    Optional.ofNullable(path.getParent()).ifPresent(this::go);
                } else if (entry.when().isEmpty()) {
                    said.setText(path + " is not there.");
                } else {
                    chosen(List.of(path));
                }
            });
        } catch (InvalidPathException e) {
            said.setText("\"" + text + "\" names no file.");
        }
    }

    private void picked(Entry entry) {
        if (entry != null && !entry.folder() && ask.kind() == Kind.SAVE) {
            name.setText(entry.path().getFileName().toString());
        }
        takeable();
    }

    private void enter() {
        Optional.ofNullable(list.getSelectionModel().getSelectedItem()).ifPresent(entry -> {
            if (entry.folder()) {
                go(entry.path());
            } else {
                take();
            }
        });
    }

    /** What the button says, and whether there is anything to take. */
    private void takeable() {
        boolean replaces = list.getItems().stream()
                .anyMatch(e ->
                        e.path().getFileName().toString().equals(name.getText().strip()));
        take.setText(
                ask.kind() == Kind.SAVE && replaces
                        ? "Replace " + name.getText().strip()
                        : ask.kind().word);
        take.setDisable(
                switch (ask.kind()) {
                    case SAVE -> name.getText().isBlank();
                    case FOLDER -> false;
                    case OPEN, OPEN_MANY -> files().isEmpty();
                });
    }

    private List<Path> files() {
        return list.getSelectionModel().getSelectedItems().stream()
                .filter(e -> e != null && !e.folder())
                .map(Entry::path)
                .toList();
    }

    private void take() {
        try {
            switch (ask.kind()) {
                case SAVE -> chosen(List.of(folder.resolve(name.getText().strip())));
                case FOLDER -> chosen(List.of(folder));
                case OPEN, OPEN_MANY -> chosen(files());
            }
        } catch (InvalidPathException e) {
            said.setText("\"" + name.getText() + "\" names no file.");
        }
    }

    private void chosen(List<Path> paths) {
        if (paths.isEmpty()) {
            return;
        }
        LAST.put(ask.title(), folder);
        close();
        then.accept(paths);
    }

    private void close() {
        work.close();
        Pane root = (Pane) getParent();
        root.getChildren().remove(this);
        root.requestFocus();
    }

    /** A line of the list. */
    private static final class Cell extends ListCell<Entry> {
        @Override
        protected void updateItem(Entry entry, boolean empty) {
            super.updateItem(entry, empty);
            if (empty || entry == null) {
                setGraphic(null);
                return;
            }
            Label file = new Label(entry.path().getFileName() + (entry.folder() ? "/" : ""));
            Label about =
                    new Label(entry.folder() ? "" : Words.format("%,.1f MB   %s", entry.bytes() / 1e6, entry.when()));
            about.getStyleClass().add("dim");
            Region gap = new Region();
            HBox.setHgrow(gap, Priority.ALWAYS);
            setGraphic(new HBox(8, file, gap, about));
        }
    }
}
