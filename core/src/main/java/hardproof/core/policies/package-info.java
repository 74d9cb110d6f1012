/** What a policy can come to: at best, by when, and what of its points goes next. */
package hardproof.core.policies;
