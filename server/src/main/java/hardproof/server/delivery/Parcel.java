package hardproof.server.delivery;

import java.nio.file.Path;
import java.util.List;

/**
 * What is taken to somebody.
 *
 * @param id of its own, so that whoever gets it twice knows
 * @param recipient as the outlet understands it: a mail address, a web address, the name of a folder
 * @param event for machines: a CloudEvent as JSON
 * @param files that go along where the outlet takes files
 */
public record Parcel(
    String id, String recipient, String subject, String body, String event, List<Enclosed> files) {
  /**
   * A file that goes along.
   *
   * @param name that it has at the other end
   */
  public record Enclosed(String name, String mediaType, Path file) {}
}
