package hardproof.server.demo;

import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.FileResult;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.installation.Installation;
import hardproof.server.storage.DataFolder;
import hardproof.standins.estate.DemoEstate;
import hardproof.standins.estate.DemoLife;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Properties;

/**
 * The feeds of the demo estate, which go on while it is watched. How far they have come is kept beside the estate; what
 * was missed while nothing ran is brought afterwards, a day at a time.
 */
public final class DemoFeed {
  /** So often they come, by the clock of the demo. */
  static final Duration EVERY = Duration.ofMinutes(15);

  private static final Duration AT_ONCE = Duration.ofDays(1);

  private final Path file;
  private final DemoLife life;
  private final Properties state;

  private DemoFeed(DataFolder folder, Properties state) {
    this.file = file(folder);
    this.state = state;
    this.life = new DemoLife(
        folder.demo(),
        Instant.parse(state.getProperty("made")),
        Long.parseLong(state.getProperty("seed")));
  }

  private static Path file(DataFolder folder) {
    return folder.root().resolve("demo-life.properties");
  }

  /** Writes down that an estate was made. */
  static void made(DataFolder folder, Instant made, long seed) throws IOException {
    Properties state = new Properties();
    state.setProperty("made", made.toString());
    state.setProperty("seed", Long.toString(seed));
    state.setProperty("lived", made.toString());
    write(file(folder), state);
  }

  /** The feeds of a folder; empty where it holds no demo that goes on. */
  public static Optional<DemoFeed> of(DataFolder folder) throws IOException {
    if (!Files.exists(file(folder))) {
      return Optional.empty();
    }
    Properties state = new Properties();
    try (InputStream in = Files.newInputStream(file(folder))) {
      state.load(in);
    }
    return Optional.of(new DemoFeed(folder, state));
  }

  /** Up to when they have told. */
  Instant lived() {
    return Instant.parse(state.getProperty("lived"));
  }

  /** A clock that begins where the demo was left, or now where that is later. */
  public DemoClock clock(double pace) {
    Instant now = Instant.now();
    return new DemoClock(lived().isAfter(now) ? lived() : now, pace);
  }

  /**
   * Brings what became known since the last time, if it is time to.
   *
   * @return whether anything was brought, so that there may be more
   */
  public boolean bring(Installation installation) throws IOException {
    Instant now = installation.clock().instant();
    Instant after = lived();
    if (Duration.between(after, now).compareTo(EVERY) < 0) {
      return false;
    }
    Instant until = now.isAfter(after.plus(AT_ONCE)) ? after.plus(AT_ONCE) : now;
    Path work = Files.createTempDirectory("hard-proof-feed-");
    try {
      for (DemoEstate.Delivery delivery : life.between(after, until)) {
        deliver(installation, delivery, work);
      }
    } finally {
      Sandboxes.removeTree(work);
    }
    // After it was taken: what is brought twice is known already.
    state.setProperty("lived", until.toString());
    write(file, state);
    return true;
  }

  private static void deliver(Installation installation, DemoEstate.Delivery delivery, Path work)
      throws IOException {
    Path file = work.resolve(delivery.file());
    Files.writeString(file, delivery.content());
    for (FileResult result : installation
        .importer()
        .take(
            Bundle.of(List.of(file), work),
            delivery.feed(),
            installation.clock().instant(),
            "inbox",
            WithRejections.TAKE_GOOD_ROWS)) {
      if (!result.rejections().isEmpty()) {
        throw new IllegalStateException(
            "the demo's feed does not import: " + result.rejections().get(0).sentence());
      }
    }
  }

  private static void write(Path file, Properties state) throws IOException {
    Path half = file.resolveSibling(file.getFileName() + ".part");
    try (OutputStream out = Files.newOutputStream(half)) {
      state.store(out, "How far the demo estate has lived.");
    }
    Files.move(half, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
  }
}
