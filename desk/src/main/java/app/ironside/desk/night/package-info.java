/** A night as it is shown: the moment chosen, the ribbon above, the rail of stations, and what each station reckons of the journal. */
package app.ironside.desk.night;
