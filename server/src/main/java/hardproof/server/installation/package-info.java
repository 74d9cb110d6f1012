/** One data folder with everything that works on it, for the server and the command line alike. */
package hardproof.server.installation;
