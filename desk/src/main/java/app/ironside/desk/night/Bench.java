package app.ironside.desk.night;

import javafx.scene.Node;

/** The middle of the desk at one station. */
public interface Bench {
    Node node();

    void show(Look look);
}
