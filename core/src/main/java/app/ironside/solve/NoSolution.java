package app.ironside.solve;

/**
 * The sky was not recognised.
 *
 * @param reason what is wrong and what helps, for a person
 */
public record NoSolution(String reason) implements SolveResult {}
