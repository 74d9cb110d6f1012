package hardproof.server.commandline;

import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.Recipe;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.FileResult;
import hardproof.server.feeds.Importer;
import hardproof.server.installation.Installation;
import hardproof.server.recipes.RecipeForm;
import hardproof.server.recipes.RecipeStore;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Brings a bundle in. */
@Command(
    name = "import",
    description = "Brings facts in: a folder, a zip, or CSV and JSON files of a bundle.",
    mixinStandardHelpOptions = true)
final class ImportCommand implements Callable<Integer> {
  private static final int REJECTIONS_SHOWN = 20;

  @Mixin
  private DataOption data;

  @Option(names = "--feed", required = true, description = "Name of the feed they come from.")
  private String feed;

  @Option(
      names = "--none-if-rejected",
      description = "Take nothing of a file in which any row is rejected.")
  private boolean noneIfRejected;

  @Option(
      names = "--recipe",
      description =
          "Recipe for files that are not of a bundle: the name of one that is kept, or a file (.json).")
  private String recipe;

  @Option(
      names = "--covers-until",
      paramLabel = "INSTANT",
      description =
          "Up to when whoever made it has looked; else the newest instant a row speaks of.")
  private String coversUntil;

  @Option(names = "--preview", description = "Only show what would change.")
  private boolean preview;

  @Parameters(arity = "1..*", paramLabel = "PATH")
  private List<Path> paths;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException {
    requirePaths();
    Instant until = HardProofCommand.time("--covers-until", coversUntil);
    PrintWriter out = spec.commandLine().getOut();
    Path work = Files.createTempDirectory("hard-proof-import-");
    try (Installation installation = data.open()) {
      Recipe with = with(installation);
      Bundle bundle = Bundle.of(paths, work, with).covering(until);
      List<FileResult> results = results(installation, bundle);
      return reported(out, results);
    } finally {
      Sandboxes.removeTree(work);
    }
  }

  private void requirePaths() throws IOException {
    for (Path path : paths) {
      if (!Files.exists(path)) {
        throw new IOException(path + " is not there");
      }
    }
  }

  private Recipe with(Installation installation) throws IOException {
    return recipe == null
        ? null
        : installation.part(RecipeStore.class).find(recipe).orElseGet(() -> fromFile(recipe));
  }

  private static Recipe fromFile(String file) {
    Path path = Path.of(file);
    if (!file.endsWith(".json") || !Files.isRegularFile(path)) {
      throw new WrongValue("there is no recipe '" + file + "', nor a file of that name");
    }
    return RecipeForm.read(path).recipe();
  }

  private List<FileResult> results(Installation installation, Bundle bundle) {
    Importer importer = installation.importer();
    var now = installation.clock().instant();
    return preview
        ? importer.preview(bundle, feed, now)
        : importer.take(
            bundle,
            feed,
            now,
            DataOption.actor(),
            noneIfRejected
                ? Importer.WithRejections.TAKE_NONE
                : Importer.WithRejections.TAKE_GOOD_ROWS);
  }

  private Integer reported(PrintWriter out, List<FileResult> results) {
    results.forEach(r -> print(out, r));
    if (results.isEmpty()) {
      out.println("There was no file to take.");
    }
    boolean clean = !results.isEmpty()
        && results.stream().allMatch(r -> !r.fileRejected() && r.rejected() == 0);
    return clean ? HardProofCommand.FINE : HardProofCommand.FINDINGS;
  }

  private void print(PrintWriter out, FileResult r) {
    if (r.fileRejected()) {
      out.println(r.rejections().get(0).sentence());
      out.println("  nothing of this file was taken");
      return;
    }
    boolean says = r.type() == null || r.file().contains(r.type().code());
    out.println(r.file() + (says ? "" : " as " + r.type().code()) + ": "
        + Wording.count(r.read(), "row", "rows") + " read = " + r.added()
        + " new + " + r.changed() + " changed + " + r.unchanged() + " unchanged + " + r.rejected()
        + " rejected"
        + (r.passedOver() == 0 ? "" : ", " + r.passedOver() + " left out by the recipe")
        + (preview ? "" : r.taken() ? "; taken" : "; nothing of it was taken")
        + (r.toldUntil() == null ? "" : "; it speaks until " + r.toldUntil()));
    printRejections(out, r);
  }

  private static void printRejections(PrintWriter out, FileResult r) {
    for (Rejection rejection :
        r.rejections().subList(0, Math.min(REJECTIONS_SHOWN, r.rejections().size()))) {
      out.println("  " + rejection.sentence());
    }
    if (r.rejected() > REJECTIONS_SHOWN) {
      out.println("  … and " + (r.rejected() - REJECTIONS_SHOWN) + " more");
    }
  }
}
