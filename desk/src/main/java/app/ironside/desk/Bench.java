package app.ironside.desk;

import javafx.scene.Node;

/** The middle of the desk at one station. */
interface Bench {
    Node node();

    void show(Look look);
}
