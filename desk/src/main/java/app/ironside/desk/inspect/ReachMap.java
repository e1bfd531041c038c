package app.ironside.desk.inspect;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.LabelRoom;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.Coverage;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;

/** The whole sky, and where in it a kit's frames hold enough stars to be recognised; east is left, as one sees it. */
public final class ReachMap extends DrawnPane {
    private static final double CELL_DEG = 2;
    private static final int MERIDIAN_STEP_DEG = 60;
    private static final double CAPTION_PX = 26;

    private List<Cell> cells = List.of();
    private Map<String, Equatorial> marks = Map.of();

    /** A piece of a ring of declination. */
    private record Cell(double ra, double dec, double raWidth, Coverage reach) {}

    /** What is to be drawn, reckoned beside the interface: some ten thousand places are counted. */
    record Reach(List<Cell> cells) {
        static Reach of(StarCatalogue catalogue, double squareDegrees) {
            List<Cell> cells = new ArrayList<>();
            for (double dec = -90 + CELL_DEG / 2; dec < 90; dec += CELL_DEG) {
                int columns = Math.max(3, (int) (360 * Math.cos(Math.toRadians(dec)) / CELL_DEG));
                double width = 360.0 / columns;
                for (int c = 0; c < columns; c++) {
                    Equatorial middle = new Equatorial((c + 0.5) * width, dec);
                    double stars = Coverage.expected(catalogue, middle, squareDegrees);
                    cells.add(new Cell(middle.raDeg(), dec, width, new Coverage((int) Math.round(stars))));
                }
            }
            return new Reach(cells);
        }
    }

    ReachMap() {
        setMinHeight(240);
    }

    /**
     * @param targets by name
     */
    void show(Reach reach, Map<String, Equatorial> targets) {
        cells = reach.cells;
        marks = targets;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        double half = Math.min(width / 2 - 8, height - CAPTION_PX - 8);
        double middleX = width / 2;
        double middleY = (height - CAPTION_PX) / 2;
        double scale = half / (2 * Math.sqrt(2));
        for (Cell cell : cells) {
            fill(g, cell, middleX, middleY, scale);
        }
        g.setStroke(faded(night(), 0.55));
        g.setLineWidth(1);
        for (int ra = -180; ra <= 180; ra += MERIDIAN_STEP_DEG) {
            line(g, ra, true, middleX, middleY, scale);
        }
        for (int dec = -60; dec <= 60; dec += 30) {
            line(g, dec, false, middleX, middleY, scale);
        }
        LabelRoom room = new LabelRoom();
        g.setTextAlign(TextAlignment.LEFT);
        g.setTextBaseline(VPos.BASELINE);
        marks.forEach((name, place) -> {
            double[] at = at(longitude(place.raDeg()), place.decDeg());
            double x = middleX + scale * at[0];
            double y = middleY - scale * at[1];
            g.setStroke(night());
            g.setLineWidth(5);
            g.strokeOval(x - 6, y - 6, 12, 12);
            g.setStroke(text());
            g.setLineWidth(2);
            g.strokeOval(x - 6, y - 6, 12, 12);
            for (double below : new double[] {5, -12, 22}) {
                if (room.take(name, x + 11, y + below)) {
                    g.setStroke(night());
                    g.setLineWidth(3);
                    g.strokeText(name, x + 11, y + below);
                    g.setFill(text());
                    g.fillText(name, x + 11, y + below);
                    break;
                }
            }
        });
        legend(g, width, height);
    }

    private Color shade(Coverage reach) {
        if (reach.isAmple()) {
            return cool();
        }
        return reach.suffices() ? cool().interpolate(panel(), 0.6) : line();
    }

    private void legend(GraphicsContext g, double width, double height) {
        Coverage[] kinds = {new Coverage(99), new Coverage(7), new Coverage(0)};
        String[] words = {"recognised wherever the mount points", "once it knows its place to a degree", "too few stars"
        };
        double x = Math.max(4, width / 2 - 350);
        for (int i = 0; i < kinds.length; i++) {
            g.setFill(shade(kinds[i]));
            g.fillRect(x, height - 16, 14, 12);
            g.setFill(dim());
            g.fillText(words[i], x + 20, height - 5);
            x += 44 + 7.2 * words[i].length();
        }
    }

    private void fill(GraphicsContext g, Cell cell, double middleX, double middleY, double scale) {
        double middle = longitude(cell.ra);
        double from = middle - cell.raWidth / 2;
        double until = middle + cell.raWidth / 2;
        // A cell across 12 h is drawn in two parts, one at either edge.
        part(g, cell, Math.max(-180, from), Math.min(180, until), middleX, middleY, scale);
        if (until > 180) {
            part(g, cell, -180, until - 360, middleX, middleY, scale);
        } else if (from < -180) {
            part(g, cell, from + 360, 180, middleX, middleY, scale);
        }
    }

    private void part(
            GraphicsContext g, Cell cell, double from, double until, double middleX, double middleY, double scale) {
        double south = cell.dec - CELL_DEG / 2;
        double north = cell.dec + CELL_DEG / 2;
        double[][] corners = {at(from, south), at(until, south), at(until, north), at(from, north)};
        double[] x = new double[4];
        double[] y = new double[4];
        for (int i = 0; i < 4; i++) {
            x[i] = middleX + scale * corners[i][0];
            y[i] = middleY - scale * corners[i][1];
        }
        g.setFill(shade(cell.reach));
        g.fillPolygon(x, y, 4);
        // Without its outline, fine seams would show between neighbours.
        g.setStroke(shade(cell.reach));
        g.setLineWidth(1);
        g.strokePolygon(x, y, 4);
    }

    private void line(GraphicsContext g, double value, boolean meridian, double middleX, double middleY, double scale) {
        g.beginPath();
        double reach = meridian ? 90 : 180;
        for (double t = -reach; t <= reach; t += 3) {
            double[] at = meridian ? at(value, t) : at(t, value);
            g.lineTo(middleX + scale * at[0], middleY - scale * at[1]);
        }
        g.stroke();
    }

    /**
     * The Hammer projection, equal in area (Snyder 1987, USGS Professional Paper 1395, page 182, for the Aitoff it is made from), 0 h in
     * the middle, east to the left.
     *
     * @param longitudeDeg right ascension, −180 to 180
     */
    static double[] at(double longitudeDeg, double decDeg) {
        double lambda = Math.toRadians(longitudeDeg) / 2;
        double phi = Math.toRadians(decDeg);
        double d = Math.sqrt(1 + Math.cos(phi) * Math.cos(lambda));
        double root = Math.sqrt(2);
        return new double[] {-2 * root * Math.cos(phi) * Math.sin(lambda) / d, root * Math.sin(phi) / d};
    }

    private static double longitude(double raDeg) {
        return raDeg > 180 ? raDeg - 360 : raDeg;
    }
}
