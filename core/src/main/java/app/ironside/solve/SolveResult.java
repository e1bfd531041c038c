package app.ironside.solve;

/** The answer to a solve. A frame that cannot be solved is an answer, not an exception. */
public sealed interface SolveResult permits PlateSolution, NoSolution {}
