package app.ironside.desk.station;

import java.util.function.Function;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;

/** A row of a list that tells its whole sentence, over as many lines as that takes. */
final class SentenceCell<T> extends ListCell<T> {
    /** Room for the cell's own borders and the list's scroll bar. */
    private static final double ASIDE = 24;

    private final Function<T, String> sentence;

    private SentenceCell(ListView<T> list, Function<T, String> sentence) {
        this.sentence = sentence;
        setWrapText(true);
        // The toolkit's own size, at which a cell measures its text; the theme's is one height for all.
        setStyle("-fx-cell-size: 24;");
        prefWidthProperty().bind(list.widthProperty().subtract(ASIDE));
    }

    static <T> void of(ListView<T> list, Function<T, String> sentence) {
        list.setCellFactory(view -> new SentenceCell<>(view, sentence));
    }

    /** A list asks for the height without a width to wrap at; the row's own width is that. */
    @Override
    protected double computePrefHeight(double width) {
        return super.computePrefHeight(width < 0 ? getPrefWidth() : width);
    }

    @Override
    protected void updateItem(T item, boolean empty) {
        super.updateItem(item, empty);
        setText(empty || item == null ? "" : sentence.apply(item));
    }
}
