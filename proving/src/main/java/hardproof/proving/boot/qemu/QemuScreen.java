package hardproof.proving.boot.qemu;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootEngine.EngineFailed;
import hardproof.proving.boot.BootEngine.Start;
import hardproof.proving.boot.KeptScreens;
import hardproof.proving.boot.Ocr;
import hardproof.proving.boot.PictureHash;
import hardproof.proving.boot.Screen;
import hardproof.proving.boot.TextGrid;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** The screen of a machine in QEMU: as text where its memory holds text, else as a picture, which is read. */
final class QemuScreen {
  private static final int VIDEO = 0xb8000;

  private static final int VIDEO_BYTES = 0x8000;

  /** So long a picture must have stood still before it is read. */
  private static final long READ_AFTER_MS = 1_000;

  /** A cursor that blinks is no new picture. */
  private static final int CURSOR_TILES = 2;

  private final QemuMonitor monitor;
  private final QemuClock clock;
  private final Start start;
  private final @Nullable Ocr ocr;
  private final Consumer<Screen> shown;
  private final KeptScreens<Screen> screens = new KeptScreens<>();
  private byte @Nullable [] before;
  private byte @Nullable [] pictureBefore;
  private long changedAt;
  private boolean decisive;
  private int begin;
  private boolean unread;

  /**
   * @param ocr null where pictures can't be read
   */
  QemuScreen(
      QemuMonitor monitor,
      QemuClock clock,
      Start start,
      @Nullable Ocr ocr,
      Consumer<Screen> shown) {
    this.monitor = monitor;
    this.clock = clock;
    this.start = start;
    this.ocr = ocr;
    this.shown = shown;
  }

  /** When it changed last, by the machine's clock. */
  long changedAt() {
    return changedAt;
  }

  /** Whether what it shows decides what the machine came to. */
  boolean decisive() {
    return decisive;
  }

  List<Screen> kept() {
    return screens.all();
  }

  /** After a restart: whatever it shows is new. */
  void beginAnew() {
    before = null;
    pictureBefore = null;
    decisive = false;
    changedAt = clock.livedMs();
  }

  /** In every graphical mode the text memory reads as ones. */
  void look() throws IOException {
    Path file = start.work().resolve("video");
    monitor.ask("pmemsave", Map.of("val", VIDEO, "size", VIDEO_BYTES, "filename", file.toString()));
    byte[] video = Files.readAllBytes(file);
    boolean graphical = graphical(video);
    if (graphical) {
      lookAtPicture();
    } else if (!Arrays.equals(video, before)) {
      lookAtText(video);
    }
  }

  private static boolean graphical(byte[] video) {
    boolean graphical = true;
    for (int i = 0; i < TextGrid.BYTES && graphical; i++) {
      graphical = video[i] == (byte) 0xff;
    }
    return graphical;
  }

  private void lookAtText(byte[] video) throws IOException {
    byte[] cells = cells(video);
    before = video;
    List<String> lines = TextGrid.lines(cells);
    // A clock or a cursor that changes its colour is no new screen.
    if (screens.newest() == null || !lines.equals(screens.newest().lines())) {
      add(new Screen(clock.livedMs(), lines, picture()));
    }
  }

  private void lookAtPicture() throws IOException {
    byte[] picture = picture();
    if (Arrays.equals(picture, pictureBefore)) {
      return;
    }
    boolean cursor = pictureBefore != null && onlyTheCursorDiffers(picture);
    pictureBefore = picture;
    if (!cursor) {
      unread = true;
      add(new Screen(clock.livedMs(), null, picture));
    }
  }

  private boolean onlyTheCursorDiffers(byte[] picture) throws IOException {
    Screen newest = screens.newest();
    return newest != null
        && newest.lines() == null
        && PictureHash.of(picture).differingTiles(PictureHash.of(newest.png())) <= CURSOR_TILES;
  }

  private void add(Screen screen) {
    boolean text = screen.lines() != null;
    screens.add(screen, text && !screens.hasBad() && start.bad().test(screen.text()));
    changedAt = clock.livedMs();
    decisive = text && start.decisive().test(screen.text());
    shown.accept(screen);
  }

  /** A picture that stood still for a moment is read once. */
  void readPicture() throws IOException {
    if (ocr == null || !unread || clock.livedMs() - changedAt < READ_AFTER_MS) {
      return;
    }
    unread = false;
    String text = ocr.read(start.work().resolve("screen.png"));
    Screen read = screens.newest().with(text);
    screens.replaceNewest(read, !screens.hasBad() && start.bad().test(text));
    decisive = start.decisive().test(text);
  }

  /** Systems scroll by moving where the screen begins in its memory, so that is asked for. */
  private byte[] cells(byte[] video) throws EngineFailed {
    findBegin();
    byte[] cells = new byte[TextGrid.BYTES];
    for (int i = 0; i < cells.length; i++) {
      cells[i] = video[(begin + i) % VIDEO_BYTES];
    }
    return cells;
  }

  private void findBegin() throws BootEngine.EngineFailed {
    boolean runs = monitor.ask("query-status", Map.of()).path("running").asBoolean(false);
    if (runs) {
      monitor.ask("stop", Map.of());
    }
    try {
      long saved = monitor.port("/b 0x3d4");
      int high = (int) monitor.port("/b 0x3d4.12");
      int low = (int) monitor.port("/b 0x3d4.13");
      monitor.human("o /b 0x3d4 " + saved);
      begin = (high << 8 | low) * 2;
    } finally {
      if (runs) {
        monitor.goOn();
      }
    }
  }

  private byte[] picture() throws IOException {
    Path file = start.work().resolve("screen.png");
    monitor.ask("screendump", Map.of("filename", file.toString(), "format", "png"));
    return Files.readAllBytes(file);
  }
}
