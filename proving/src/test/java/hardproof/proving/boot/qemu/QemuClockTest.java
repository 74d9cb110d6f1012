package hardproof.proving.boot.qemu;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.proving.boot.BootEngine.EngineFailed;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

/**
 * The timer's rate and width are those of the ACPI Specification 6.5, 4.8.2.1: 3.579545 MHz, 24 bits here.
 */
class QemuClockTest {
  private static final long NOTHING = 0xffff_ffffL;

  private final Map<String, Long> ports = new HashMap<>();
  private final QemuClock clock = new QemuClock(where -> ports.getOrDefault(where, NOTHING));

  private long at(String port, long value) throws EngineFailed {
    ports.put(port, value);
    clock.read();
    return clock.livedMs();
  }

  @Test
  void timeBeginsWhenTheFirmwareHasSetTheTimerUp() throws EngineFailed {
    clock.read();
    assertThat(clock.livedMs()).isZero();
    assertThat(at("/w 0x608", 1_000_000)).isZero();
    assertThat(at("/w 0x608", 1_000_000 + 3_579_545)).isEqualTo(1000);
  }

  @Test
  void itCountsOnWhereTheTimerOverflows() throws EngineFailed {
    at("/w 0x608", 0xff_ffff);
    // One tick to zero, and 3,579,544 more.
    assertThat(at("/w 0x608", 3_579_544)).isEqualTo(1000);
    assertThat(at("/w 0x608", 3_579_544)).isEqualTo(1000);
    assertThat(at("/w 0x608", 0xff_ffff)).isEqualTo(4686);
  }

  @Test
  void otherFirmwareHasItElsewhere() throws EngineFailed {
    at("/w 0xb008", 5);
    assertThat(at("/w 0xb008", 5 + 7_159_090)).isEqualTo(2000);
  }
}
