package hardproof.server;

import hardproof.server.commandline.HardProofCommand;

/** Where the program begins. */
public final class HardProof {
  private HardProof() {}

  public static void main(String[] args) {
    String refusal = refusal(System.getProperty("sun.jnu.encoding"));
    if (refusal != null) {
      System.err.println(refusal);
      System.exit(HardProofCommand.WRONG_USE);
    }
    int code = HardProofCommand.run(args, System.out, System.err);
    // A server that is up has answered with 0 and goes on by its own threads.
    if (code != HardProofCommand.SERVING) {
      System.exit(code);
    }
  }

  /**
   * Why the program does not start under a locale; null when it does.
   *
   * @param encoding that Java reads and writes names of files in
   */
  static String refusal(String encoding) {
    return "UTF-8".equalsIgnoreCase(encoding)
        ? null
        : "hard-proof: under this locale names of files are " + encoding
            + ", and names like Zürich would be lost. Start it by ./hard-proof, or under LC_ALL=C.UTF-8.";
  }
}
