package hardproof.server.delivery;

import hardproof.core.wording.WrongValue;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.regex.Pattern;

/** Folders beneath the data folder's {@code outbox}, which whoever runs the machine may link to another disk. */
public final class FolderOutlet implements Outlet {
  private static final Pattern NAME = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._-]{0,63}");

  private final Path outbox;

  public FolderOutlet(Path outbox) {
    this.outbox = outbox;
  }

  /**
   * The name of a folder.
   *
   * @throws WrongValue where it could lead elsewhere
   */
  public static String name(String folder) {
    if (!NAME.matcher(folder).matches()) {
      throw new WrongValue(
          "'" + folder + "' is no name of a folder in the outbox; write letters, digits, . _ and -"
              + ", at most 64, and no path");
    }
    return folder;
  }

  @Override
  public void deliver(Parcel parcel, Instant now) throws NotTaken {
    try {
      Path folder = outbox.resolve(name(parcel.recipient()));
      Files.createDirectories(folder);
      for (Parcel.Enclosed enclosed : parcel.files()) {
        // Under a name of its own until it is whole: whoever takes files away may look at any
        // moment.
        Path half = Files.createTempFile(folder, ".", ".part");
        try {
          Files.copy(enclosed.file(), half, StandardCopyOption.REPLACE_EXISTING);
          Files.move(half, folder.resolve(enclosed.name()), StandardCopyOption.ATOMIC_MOVE);
        } finally {
          Files.deleteIfExists(half);
        }
      }
    } catch (IOException | WrongValue e) {
      throw new NotTaken("the outbox can't be written: " + e.getMessage());
    }
  }
}
