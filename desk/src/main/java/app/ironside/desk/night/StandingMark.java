package app.ironside.desk.night;

import app.ironside.desk.night.RailState.Standing;
import app.ironside.desk.parts.DrawnPane;
import javafx.scene.canvas.GraphicsContext;

/** A station's standing as a shape: tick, disc, triangle, or open square. */
public final class StandingMark extends DrawnPane {
    private Standing standing = Standing.WAITING;

    public StandingMark() {
        setMinSize(22, 22);
        setPrefSize(22, 22);
        setMaxSize(22, 22);
        setMouseTransparent(true);
    }

    public void show(Standing next) {
        if (next != standing) {
            standing = next;
            stale();
        }
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setLineWidth(2.4);
        switch (standing) {
            case PASSED -> {
                g.setStroke(good());
                g.strokePolyline(new double[] {4, 9, 18}, new double[] {12, 17, 5}, 3);
            }
            case WORKING -> {
                g.setFill(accent());
                g.fillOval(5, 5, 12, 12);
            }
            case FAILED -> {
                g.setFill(alert());
                g.fillPolygon(new double[] {3, 19, 11}, new double[] {18, 18, 4}, 3);
            }
            case WAITING -> {
                g.setStroke(dim());
                g.setLineWidth(1.6);
                g.strokeRect(6, 6, 10, 10);
            }
        }
    }
}
