package app.ironside.desk.night;

import java.util.Optional;
import javafx.scene.control.SkinBase;
import javafx.scene.input.Dragboard;
import javafx.scene.input.TransferMode;

/** Draws a ribbon in two layers: the sky, which a drag leaves as it is, and the night before it. */
final class RibbonSkin extends SkinBase<Ribbon> {
    private final RibbonSky sky = new RibbonSky();
    private final RibbonNight night = new RibbonNight();

    RibbonSkin(Ribbon ribbon) {
        super(ribbon);
        getChildren().addAll(sky, night);
        RibbonGrip grip = new RibbonGrip(ribbon);
        ribbon.setOnMousePressed(grip::pressed);
        ribbon.setOnMouseDragged(grip::dragged);
        ribbon.setOnMouseReleased(grip::released);
        ribbon.setOnDragOver(e -> {
            if (taker(ribbon, e.getDragboard()).isPresent()) {
                e.acceptTransferModes(TransferMode.COPY);
                e.consume();
            }
        });
        ribbon.setOnDragDropped(e -> {
            Optional<RibbonPlanner> planner = taker(ribbon, e.getDragboard());
            planner.ifPresent(p -> {
                p.dropped(e.getDragboard().getString(), ribbon.places().timeAt(e.getX()));
                e.setDropCompleted(true);
                e.consume();
            });
        });
        registerChangeListener(ribbon.lookProperty(), o -> show());
        registerChangeListener(ribbon.widthProperty(), o -> show());
        registerChangeListener(ribbon.heightProperty(), o -> show());
        show();
    }

    /** The planner, if it takes what is dragged. */
    private static Optional<RibbonPlanner> taker(Ribbon ribbon, Dragboard board) {
        return ribbon.lookProperty().get().planner().filter(p -> board.hasString() && p.takes(board.getString()));
    }

    private void show() {
        Ribbon ribbon = getSkinnable();
        if (ribbon.lookProperty().get().state().isPresent()) {
            RibbonPlaces places = ribbon.places();
            sky.show(places);
            night.show(places, ribbon.lookProperty().get());
        }
    }

    @Override
    protected void layoutChildren(double x, double y, double width, double height) {
        sky.resizeRelocate(x, y, width, height);
        night.resizeRelocate(x, y, width, height);
    }
}
