/** Taking what is to be told to those it is for: by mail, by webhook, into a folder. */
package hardproof.server.delivery;
