package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import java.io.IOException;
import java.util.List;

/** Looks whether every artifact of the chain is there with the expected size. */
final class PresenceDrill implements DrillMethod {
  @Override
  public List<String> steps(DrillRequest request) {
    return List.of("Find " + Wording.count(request.chain().size(), "artifact", "artifacts"));
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return Rung.HELD;
  }

  @Override
  public long spaceBytes(DrillRequest request) {
    return 0;
  }

  @Override
  public String refusal(DrillRequest request) {
    return null;
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    for (Artifact artifact : request.chain()) {
      request.store().size(artifact.place());
    }
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    for (Artifact artifact : request.chain()) {
      ArtifactReading.checkSize(request, artifact);
    }
    String found = Wording.count(request.chain().size(), "artifact is", "artifacts are") + " on "
        + request.storeName() + " with the expected size";
    w.steps.done(found);
    return found;
  }
}
