/** Lists as tables, for whoever takes them away. */
package hardproof.server.tables;
