/** Public controls: which criteria serve each, how they came out, and what of it nothing here looks at. */
package hardproof.core.controls;
