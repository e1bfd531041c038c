/** The benches of the other stations, from Ready to Logbook. */
package app.ironside.desk.station;
