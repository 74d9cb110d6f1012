package hardproof.proving;

import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** A disk of its own that is soon full. Where this machine lets nobody mount one, the test is skipped. */
public final class SmallDisk implements AutoCloseable {
  public final Path folder;

  public SmallDisk(Path temp, String size) throws IOException, InterruptedException {
    folder = Files.createDirectory(temp.resolve("small-disk"));
    Command mounted =
        Command.run(temp, "mount", "-t", "tmpfs", "-o", "size=" + size, "tmpfs", folder.toString());
    assumeTrue(mounted.exit() == 0, "a small disk can't be mounted here: " + mounted.output());
  }

  @Override
  public void close() throws IOException {
    try {
      Command.run(folder.getParent(), "umount", "-l", folder.toString());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
