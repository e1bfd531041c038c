/**
 * Exercises on what goes wrong at night: which there are, how a night is told afterwards, and what was reached so far. In: a lesson and four
 * nights with the same sky. Out: what happened, when it could be seen, what it cost, and points.
 */
package app.ironside.trainer;
