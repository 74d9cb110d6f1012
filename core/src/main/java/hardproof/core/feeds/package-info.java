/** The import bundle: its files and fields, and how one row becomes a fact or a rejection. */
package hardproof.core.feeds;
