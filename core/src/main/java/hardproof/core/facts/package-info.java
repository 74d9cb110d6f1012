/** Everything that is known at one instant, and what can be restored by it. */
package hardproof.core.facts;
