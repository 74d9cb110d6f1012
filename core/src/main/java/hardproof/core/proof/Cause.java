package hardproof.core.proof;

/** Why a member brings its workload to a verdict. */
public record Cause(Verdict verdict, String resource, String sentence) {}
