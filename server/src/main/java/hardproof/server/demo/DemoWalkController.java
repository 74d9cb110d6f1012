package hardproof.server.demo;

import hardproof.server.activity.Activity;
import hardproof.server.installation.Installation;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.security.Principal;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** A demo to walk through, beside this installation. */
@RestController
@RequestMapping("/api/demo-walk")
class DemoWalkController {
  private final DemoWalk walk;
  private final Activity activity;
  private final boolean itself;
  private final boolean here;

  DemoWalkController(
      DemoWalk walk,
      Activity activity,
      Installation installation,
      @Value("${server.address:127.0.0.1}") String address) {
    this.walk = walk;
    this.activity = activity;
    this.itself = Files.exists(installation.folder().demo());
    this.here = loopback(address);
  }

  private static boolean loopback(String address) {
    try {
      return InetAddress.getByName(address).isLoopbackAddress();
    } catch (UnknownHostException e) {
      return false;
    }
  }

  /**
   * How it goes.
   *
   * @param possible whether one can be begun here; else {@code sentence} says how
   * @param sentence what it does, or why it failed
   * @param port where it is on the machine of the server; 0 until it runs
   */
  record DemoWalkView(boolean possible, DemoWalk.State state, String sentence, int port) {}

  private DemoWalkView view(DemoWalk.Walk now) {
    String refusal = refusal();
    return refusal == null
        ? new DemoWalkView(true, now.state(), now.sentence(), now.port())
        : new DemoWalkView(false, now.state(), refusal, 0);
  }

  /** People of a demo have a password that everybody knows: it is for nobody but who sits at this machine. */
  private String refusal() {
    if (itself) {
      return "this is the demo";
    }
    return here
        ? null
        : "this server can be reached from elsewhere, and a demo must not: start one on a machine of your own by"
            + " ./demo.sh";
  }

  @Operation(summary = "Whether a demo runs beside this installation")
  @GetMapping
  DemoWalkView now() {
    return view(walk.now());
  }

  @Operation(summary = "Begin a demo beside this installation, on this machine only")
  @PostMapping
  DemoWalkView begin(Principal person) {
    String refusal = refusal();
    if (refusal != null) {
      throw new Refused("No demo is begun: " + refusal + ".");
    }
    activity.record(person.getName(), "demo begun", "demo", "");
    return view(walk.begin());
  }

  @Operation(summary = "End the demo; what it kept is gone")
  @DeleteMapping
  DemoWalkView end(Principal person) {
    activity.record(person.getName(), "demo ended", "demo", "");
    return view(walk.end());
  }
}
