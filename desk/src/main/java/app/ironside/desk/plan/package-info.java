/** The station Plan: the draft and its undo, tonight, framing, season, exposure, costs, and the editors of site and kit. */
package app.ironside.desk.plan;
