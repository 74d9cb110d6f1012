package hardproof.server.demo;

import hardproof.proving.stores.ObjectAddress;
import hardproof.proving.stores.SftpAddress;
import hardproof.server.installation.Installation;
import hardproof.server.storage.DataFolder;
import hardproof.server.stores.Connecting;
import hardproof.server.stores.Connecting.Opening;
import hardproof.standins.estate.OutsideStores;
import java.io.IOException;
import java.time.Instant;

/**
 * The demo's stores that are reached by a wire, as long as it runs. What is said of them is taken back at the end: their
 * ports are others the next time, and a command that finds nobody there reads their folders.
 */
public final class DemoStores implements AutoCloseable {
  private static final String BY = "administrator";

  private final OutsideStores outside;
  private final Connecting connecting;

  private DemoStores(OutsideStores outside, Connecting connecting) {
    this.outside = outside;
    this.connecting = connecting;
  }

  /** Starts them, and says how they are reached. */
  public static DemoStores start(DataFolder folder, Installation installation) throws IOException {
    OutsideStores outside = OutsideStores.start(folder.demo());
    Connecting connecting = installation.part(Connecting.class);
    Instant now = installation.clock().instant();
    connecting.objects(
        OutsideStores.OBJECTS,
        ObjectAddress.of(
            outside.objects().endpoint().toString(),
            OutsideStores.REGION,
            OutsideStores.BUCKET,
            "",
            true,
            null),
        new Opening(OutsideStores.KEY, OutsideStores.SECRET),
        BY,
        now);
    connecting.host(
        OutsideStores.HOST,
        SftpAddress.of(
            "127.0.0.1",
            outside.host().port(),
            OutsideStores.USER,
            OutsideStores.FOLDER,
            outside.host().hostKeyLine()),
        OutsideStores.PASSWORD,
        BY,
        now);
    return new DemoStores(outside, connecting);
  }

  @Override
  public void close() {
    connecting.forget(OutsideStores.OBJECTS);
    connecting.forget(OutsideStores.HOST);
    outside.close();
  }
}
