/** Sentences and spellings: used by everything that speaks to a person or writes a file. */
package hardproof.core.wording;
