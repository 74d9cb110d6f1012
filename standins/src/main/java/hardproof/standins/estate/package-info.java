/** The demo estate: an invented ferry line, its facts day by day, and its people. */
package hardproof.standins.estate;
