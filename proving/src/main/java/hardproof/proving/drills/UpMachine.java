package hardproof.proving.drills;

import hardproof.proving.boot.Ending;
import hardproof.proving.boot.Expectation;
import hardproof.proving.boot.KeptMachine;
import hardproof.proving.boot.ScreenClass;
import hardproof.proving.boot.ScreenReader;
import hardproof.proving.boot.Watched;
import java.io.IOException;
import org.jspecify.annotations.Nullable;

/** A machine of a rehearsal that goes on. Whether it is still up is known when it is let go and looked at once more. */
record UpMachine(DrillRequest request, KeptMachine machine) implements UpMembers.Stays {
  @Override
  public UpMembers.@Nullable Fallen fallen() throws IOException {
    Watched watched = machine.end();
    ScreenReader.Reading reading =
        ScreenReader.read(watched, Expectation.of(request.checks()), request.accepted());
    boolean open =
        watched.ending() == Ending.NOT_DECIDED || reading.screenClass() == ScreenClass.NOT_DECIDED;
    if (open) {
      return new UpMembers.Fallen(false, "whether it stayed up can't be told: " + watched.note());
    }
    return reading.screenClass().bad()
        ? new UpMembers.Fallen(
            true,
            "it came up and did not stay up: " + reading.screenClass().words() + ", "
                + reading.sentence())
        : null;
  }

  @Override
  public void end() {
    machine.close();
  }
}
