package hardproof.server;

import hardproof.server.commandline.HardProofCommand;

/** Where the program begins. */
public final class HardProof {
  private HardProof() {}

  public static void main(String[] args) {
    int code = HardProofCommand.run(args, System.out, System.err);
    // A server that is up has answered with 0 and goes on by its own threads.
    if (code != HardProofCommand.SERVING) {
      System.exit(code);
    }
  }
}
