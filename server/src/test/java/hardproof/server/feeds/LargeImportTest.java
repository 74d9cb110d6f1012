package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.Estate;
import hardproof.server.feeds.Importer.WithRejections;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LargeImportTest {
  @TempDir
  Path folder;

  private Estate estate;

  @BeforeEach
  void open() {
    estate = new Estate(folder);
  }

  @AfterEach
  void close() {
    estate.close();
  }

  private List<String> indexes() {
    return estate
        .installation
        .database()
        .reads()
        .sql("SELECT name FROM sqlite_schema WHERE type = 'index' AND tbl_name = 'recovery_point'")
        .query(String.class)
        .list();
  }

  /** A large first file is indexed when it is in; taken or left out, the indexes are there again. */
  @Test
  void aLargeFirstFileLeavesTheIndexesAsTheyWere() throws IOException {
    List<String> before = indexes();
    assertThat(before).contains("recovery_point_current", "recovery_point_by_resource");
    StringBuilder rows =
        new StringBuilder("key,resource,policy,form,data_time,available,outcome\n");
    for (int i = 0; i < 36_000; i++) {
      rows.append("p").append(i).append(",r").append(i % 3).append(',').append("x".repeat(450));
      rows.append(",full,2026-11-24T01:00:00Z,2026-11-24T02:00:00Z,complete\n");
    }
    Path bad = estate.write("points.csv", rows + "p,r,,full,never,,complete\n");
    assertThat(Files.size(bad)).isGreaterThan(16 << 20);
    assertThat(estate.take("test", WithRejections.TAKE_NONE, bad).get(0).taken())
        .isFalse();
    assertThat(indexes()).isEqualTo(before);
    FileResult taken = estate.take("points.csv", rows.toString());
    assertThat(taken.added()).isEqualTo(36_000);
    assertThat(indexes()).containsExactlyInAnyOrderElementsOf(before);
    assertThat(estate.take("points.csv", rows.toString()).unchanged()).isEqualTo(36_000);
  }
}
