package hardproof.proving.boot;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Starts an image with no network and nothing written to it, and watches its screen. */
public interface BootEngine {
  /** For choosing it: {@code stand-in} or {@code qemu}. */
  String code();

  /** For people, with its version. */
  String name();

  /**
   * What is to be started.
   *
   * @param image in raw form
   * @param efi whether firmware of the newer kind starts it
   * @param bus what the disk hangs on
   * @param work a folder of its own for what it needs to write
   * @param limit of the machine's own time
   * @param decisive whether a text screen decides what came of it; an engine may then stop soon
   * @param bad whether a text screen alone shows that it did not come up; the first such is kept
   * @param nonce that the machine finds in its serial number and repeats in what it says of services
   */
  record Start(
      Path image,
      boolean efi,
      Bus bus,
      Path work,
      Duration limit,
      Predicate<String> decisive,
      Predicate<String> bad,
      String nonce) {}

  /** What a disk hangs on; which one a system has a driver for is not told by its image. */
  enum Bus {
    IDE("IDE"),
    VIRTIO("virtio"),
    SATA("SATA");

    private final String words;

    Bus(String words) {
      this.words = words;
    }

    /** For sentences. */
    public String words() {
      return words;
    }
  }

  /** The engine itself could not do its work: never a failure of the machine. */
  final class EngineFailed extends IOException {
    private static final long serialVersionUID = 1L;

    public EngineFailed(String message, Throwable cause) {
      super(message, cause);
    }
  }

  /** The image is not one that may or can be started. */
  final class BadImage extends IOException {
    private static final long serialVersionUID = 1L;

    public BadImage(String message) {
      super(message);
    }
  }

  /**
   * Runs the machine until it has settled or its limit is over.
   *
   * @param shown told each new screen
   * @param stopIfCancelled called often; what it throws ends the machine
   * @throws EngineFailed when the engine could not start or broke down
   * @throws BadImage when the image itself is refused
   */
  default Watched watch(Start start, Consumer<Screen> shown, Runnable stopIfCancelled)
      throws IOException {
    return watch(start, shown, stopIfCancelled, null);
  }

  /** Of a machine that is to go on after it has settled. */
  interface Keeping {
    /** It has settled, with what was seen until then; it goes on. */
    void settled(Watched watched);

    /**
     * Waits, at most so long, for the end.
     *
     * @return whether it is to go on
     */
    boolean wanted(long waitMs);
  }

  /**
   * The same; what has settled goes on for as long as it is wanted, and whatever becomes of it by then is in what is
   * returned.
   *
   * @param keeping null where it ends when it has settled
   */
  Watched watch(
      Start start, Consumer<Screen> shown, Runnable stopIfCancelled, @Nullable Keeping keeping)
      throws IOException;
}
