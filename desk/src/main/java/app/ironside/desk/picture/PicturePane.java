package app.ironside.desk.picture;

import app.ironside.solve.Wcs;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.StackPane;

/** A picture with its caption, what is under the cursor, and a word where there is none. */
public final class PicturePane extends StackPane {
    private static final double LEVELS_WIDTH = 260;
    private static final double LEVELS_HEIGHT = 74;

    private final FrameView view = new FrameView();
    private final Label caption = new Label();
    private final Label readout = new Label();
    private final Label empty = new Label();
    private final HistogramView raw = new HistogramView();
    private boolean levels;
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
        raw.setId("raw-levels");
        raw.setMaxSize(LEVELS_WIDTH, LEVELS_HEIGHT);
        raw.setMouseTransparent(true);
        raw.setOpacity(0.85);
        raw.setVisible(false);
        StackPane.setAlignment(raw, Pos.BOTTOM_RIGHT);
        StackPane.setMargin(raw, new Insets(10));
        getChildren().addAll(view, empty, caption, readout, raw);
        setMinSize(120, 120);
    }

    /** The same, with the levels of the frame as it was read out in a corner, where there is room: the stretch hides them. */
    public PicturePane withLevels() {
        levels = true;
        return this;
    }

    @Override
    protected void layoutChildren() {
        raw.setVisible(levels && !key.isEmpty() && getWidth() > 2 * LEVELS_WIDTH && getHeight() > 3 * LEVELS_HEIGHT);
        super.layoutChildren();
    }

    /** Says something else while there is no picture. */
    public void setWhenEmpty(String words) {
        empty.setText(words);
    }

    public FrameView view() {
        return view;
    }

    /** Shows two pictures of one size under a curtain; the caption of the right one tells of both. */
    public void compare(PictureLevels left, PictureLevels right) {
        empty.setVisible(false);
        caption.setVisible(true);
        caption.setText(right.shown().caption());
        key = left.shown().key() + " | " + right.shown().key();
        view.show(left, right);
        raw.show(right.raw(), right.middleAdu());
        requestLayout();
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
                raw.clear();
                key = "";
                requestLayout();
            }
            return;
        }
        Shown shown = picture.get().shown();
        if (!shown.key().equals(key)) {
            view.show(picture.get());
            raw.show(picture.get().raw(), picture.get().middleAdu());
            key = shown.key();
            requestLayout();
            caption.setText(shown.caption());
        }
        view.setWcs(wcs);
    }
}
