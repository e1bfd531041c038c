package app.ironside.solve;

/**
 * The sky was not recognised.
 *
 * @param reason what is wrong and what helps, for a person
 * @param starless whether there were too few stars to try
 */
public record NoSolution(String reason, boolean starless) implements SolveResult {}
