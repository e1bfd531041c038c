package app.ironside.sky;

/**
 * A star of a catalogue.
 *
 * @param name designation, for example "HIP 8832"
 * @param magnitude V
 * @param colourBv B−V; 0.6, that of the Sun, where the catalogue has none
 */
public record CatalogueStar(String name, Equatorial position, double magnitude, double colourBv) {}
