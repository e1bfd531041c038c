/** What every driver must do, as tests: a driver's own test extends the class of its port and says how to make and to lose the device. */
package app.ironside.contract;
