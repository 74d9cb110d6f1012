import hardproof.standins.stores.*;
import java.io.*;
import java.time.*;

/**
 * An object store that stands in, with as many objects as asked for, of a hundred bytes each. Says its address, and goes on
 * until it is killed.
 *
 * <p>usage: java -cp CLASSES bench/StoreOf.java RESOURCES POINTS
 */
class StoreOf {
  public static void main(String[] args) throws Exception {
    int resources = Integer.parseInt(args[0]);
    int points = Integer.parseInt(args[1]);
    Instant written = Instant.parse("2026-11-01T00:00:00Z");
    ObjectShelf shelf = ObjectShelf.empty();
    for (int r = 0; r < resources; r++) {
      for (int p = 0; p < points; p++) {
        shelf.put(
            "backups/r" + r + "/p" + p + ".img", 100, written, () -> new ByteArrayInputStream(new byte[100]));
      }
    }
    ObjectStandIn standIn = ObjectStandIn.start(
        new ObjectStandIn.Settings("b", shelf, "key", "secret", "r-1", true, true), 0, Clock.systemUTC());
    System.out.println(standIn.endpoint());
    Thread.currentThread().join();
  }
}
