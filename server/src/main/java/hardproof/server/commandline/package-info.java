/** The command line: the same work as the screens, for people and pipelines. */
package hardproof.server.commandline;
