package app.ironside.polar;

/** The exposures do not tell the axis; {@code reason} says why and what to do. */
public record PolarRefusal(String reason) implements PolarResult {}
