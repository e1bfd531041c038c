/** The right column: a verdict with its numbers, working, schools and cautions. */
package app.ironside.desk.reckon;
