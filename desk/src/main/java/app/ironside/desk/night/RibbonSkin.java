package app.ironside.desk.night;

import javafx.scene.control.SkinBase;

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
        registerChangeListener(ribbon.lookProperty(), o -> show());
        registerChangeListener(ribbon.widthProperty(), o -> show());
        registerChangeListener(ribbon.heightProperty(), o -> show());
        show();
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
