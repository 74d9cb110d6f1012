package hardproof.proving.boot;

import java.util.regex.Pattern;

/** Whether a system that was started says that it does not find its disk (common practice, no source). */
public final class LostDisk {
  private static final Pattern SAYS = Pattern.compile(
      "unable to mount root|cannot open root device|waiting for root|does not exist\\. +dropping to a shell"
          + "|gave up waiting for root|timed out waiting for device|could not boot|no root device"
          + "|inaccessible_boot_device|\\(initramfs\\)|^dracut:",
      Pattern.CASE_INSENSITIVE | Pattern.MULTILINE);

  private LostDisk() {}

  public static boolean shownBy(Watched watched) {
    return SAYS.matcher(watched.serial()).find()
        || watched.screens().stream().anyMatch(s -> SAYS.matcher(s.text()).find());
  }
}
