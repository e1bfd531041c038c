package app.ironside.logbook;

import java.nio.file.Path;

/**
 * A night in the logbook.
 *
 * @param folder of its frames
 * @param document the program, kit and site it was started with, JSON
 */
public record NightEntry(long id, Path folder, String title, String document) {}
