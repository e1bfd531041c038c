package app.ironside.solve;

import app.ironside.sky.Equatorial;

/**
 * A star of a solved frame with its place in the catalogue.
 *
 * @param x FITS pixel where it was seen
 * @param sky of the catalogue, at the frame's epoch
 * @param residualX seen less expected, pixels
 */
public record StarMatch(double x, double y, Equatorial sky, double residualX, double residualY) {}
