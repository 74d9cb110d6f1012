package hardproof.proving.stores;

import hardproof.core.wording.WrongValue;

/**
 * A folder of a host that is reached by SFTP.
 *
 * @param folder from the root of the host's file system, without / at its end
 * @param hostKeys lines as in a file of known hosts; a host that shows none of their keys is not talked with
 */
public record SftpAddress(String host, int port, String user, String folder, String hostKeys) {
  private static final int HIGHEST_PORT = 65535;

  /**
   * Of what a person wrote.
   *
   * @throws WrongValue saying which part is none, and how it is written
   */
  public static SftpAddress of(String host, int port, String user, String folder, String hostKeys) {
    String name = host.strip();
    requireHost(name, port);
    if (user.isBlank()) {
      throw new WrongValue("say as whom to sign in");
    } else if (!folder.strip().startsWith("/") || ObjectAddress.outside(folder.strip())) {
      // What can't be entered is some servers' reason to start elsewhere in silence.
      throw new WrongValue("'" + folder + "' is no folder from the root; write it as /srv/backups");
    } else if (hostKeys.isBlank()) {
      throw new WrongValue(
          "without the host's key anybody could pretend to be it; have it shown, compare it with what its"
              + " administrator says, and keep it");
    }
    String path = folder.strip();
    while (path.length() > 1 && path.endsWith("/")) {
      path = path.substring(0, path.length() - 1);
    }
    return new SftpAddress(name, port, user.strip(), path, hostKeys.strip());
  }

  /**
   * @throws WrongValue where one of them is none
   */
  static void requireHost(String host, int port) {
    if (!host.matches("[A-Za-z0-9._:-]{1,253}")) {
      throw new WrongValue("'" + host + "' is no host; write it as backups.example");
    } else if (port < 1 || port > HIGHEST_PORT) {
      throw new WrongValue("a port is a number from 1 to " + HIGHEST_PORT);
    }
  }

  /** For messages. */
  public String words() {
    return folder + " on " + host + (port == 22 ? "" : ":" + port);
  }
}
