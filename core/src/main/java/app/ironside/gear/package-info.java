/** What was done to the gear between nights, and what of the record it makes void. */
package app.ironside.gear;
