/** Pieces that every view is made of: regions that draw themselves, plots, room for labels, words and numbers as they are written, long work with its bar. */
package app.ironside.desk.parts;
