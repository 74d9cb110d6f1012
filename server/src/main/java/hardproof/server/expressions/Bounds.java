package hardproof.server.expressions;

import dev.cel.common.CelOptions;

/** Of expressions in the Common Expression Language: none runs for long, whatever it says and of whatever it is asked. */
public final class Bounds {
  public static final CelOptions OPTIONS = CelOptions.current()
      .comprehensionMaxIterations(1000)
      .maxExpressionCodePointSize(2000)
      .maxParseRecursionDepth(50)
      .maxParseExpressionNodeCount(500)
      .maxRegexProgramSize(500)
      .build();

  private Bounds() {}
}
