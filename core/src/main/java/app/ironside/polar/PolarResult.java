package app.ironside.polar;

/** Where the axis points, or why that cannot be told. */
public sealed interface PolarResult permits PolarError, PolarRefusal {}
