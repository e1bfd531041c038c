package app.ironside.desk.picture;

import app.ironside.solve.Wcs;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.StackPane;

/** A picture with its caption, what is under the cursor, and a word where there is none. */
public final class PicturePane extends StackPane {
    private final FrameView view = new FrameView();
    private final Label caption = new Label();
    private final Label readout = new Label();
    private final Label empty = new Label();
    private String key = "";

    public PicturePane(String whenEmpty) {
        for (Label label : new Label[] {caption, readout}) {
            label.getStyleClass().add("caption");
            label.setMouseTransparent(true);
            StackPane.setMargin(label, new Insets(10));
        }
        StackPane.setAlignment(caption, Pos.TOP_LEFT);
        StackPane.setAlignment(readout, Pos.BOTTOM_LEFT);
        readout.setId("readout");
        readout.setVisible(false);
        empty.setText(whenEmpty);
        empty.getStyleClass().add("dim");
        empty.setMouseTransparent(true);
        empty.setId("picture-empty");
        view.setReadout(text -> {
            readout.setText(text);
            readout.setVisible(!text.isEmpty());
        });
        caption.setVisible(false);
        caption.setWrapText(true);
        caption.setMaxHeight(USE_PREF_SIZE);
        getChildren().addAll(view, empty, caption, readout);
        setMinSize(120, 120);
    }

    /** Says something else while there is no picture. */
    public void setWhenEmpty(String words) {
        empty.setText(words);
    }

    public FrameView view() {
        return view;
    }

    /**
     * Shows a picture, or what to say without one.
     *
     * @param wcs places of its pixels, if it was recognised
     */
    public void show(Optional<PictureLevels> picture, Optional<Wcs> wcs) {
        empty.setVisible(picture.isEmpty());
        caption.setVisible(picture.isPresent());
        if (picture.isEmpty()) {
            if (!key.isEmpty()) {
                view.clear();
                key = "";
            }
            return;
        }
        Shown shown = picture.get().shown();
        if (!shown.key().equals(key)) {
            view.show(picture.get());
            key = shown.key();
            caption.setText(shown.caption());
        }
        view.setWcs(wcs);
    }
}
