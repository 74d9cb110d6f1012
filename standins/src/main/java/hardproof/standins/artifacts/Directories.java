package hardproof.standins.artifacts;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Random;
import java.util.zip.GZIPOutputStream;

/** The staff of the ferries as a directory holds them. All of them are made up. */
public final class Directories {
  /** People in it. */
  public static final int PEOPLE = 60;

  private static final String BASE = "dc=tarnwick,dc=example";
  private static final String[] GIVEN = {
    "Astrid", "Jonas", "Petra", "Oskar", "Nils", "Runa", "Edvin", "Mina", "Tobias", "Ingrid"
  };
  private static final String[] FAMILY = {
    "Vell", "Brae", "Lund", "Thyne", "Arden", "Feld", "Stroem", "Corr", "Quill", "Roke"
  };

  private Directories() {}

  /**
   * Entries as LDIF.
   *
   * @param lost whether some people have lost their mail address on the way
   */
  public static Artifact staff(long seed, boolean lost) throws IOException {
    Random random = new Random(seed);
    StringBuilder ldif = new StringBuilder("version: 1\n\n");
    ldif.append("dn: ").append(BASE).append("\nobjectClass: domain\ndc: tarnwick\n\n");
    ldif.append("dn: ou=people,")
        .append(BASE)
        .append("\nobjectClass: organizationalUnit\nou: people\n\n");
    StringBuilder crew = new StringBuilder(
        "dn: cn=deck crew," + BASE + "\nobjectClass: groupOfNames\ncn: deck crew\n");
    for (int i = 0; i < PEOPLE; i++) {
      addPerson(lost, random, ldif, crew, i);
    }
    ldif.append(crew);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
      gzip.write(ldif.toString().getBytes(StandardCharsets.UTF_8));
    }
    return new Artifact("ldif.gz", out.toByteArray(), null);
  }

  private static void addPerson(
      boolean lost, Random random, StringBuilder ldif, StringBuilder crew, int i) {
    String given = GIVEN[i % GIVEN.length];
    String family = FAMILY[(i / GIVEN.length + i) % FAMILY.length];
    String uid = (given.charAt(0) + family).toLowerCase(Locale.ROOT) + i;
    String dn = "uid=" + uid + ",ou=people," + BASE;
    ldif.append("dn: ").append(dn).append("\nobjectClass: inetOrgPerson\nuid: ").append(uid);
    ldif.append("\ncn: ").append(given).append(' ').append(family);
    ldif.append("\nsn: ").append(family);
    if (!lost || i % 20 != 7) {
      ldif.append("\nmail: ").append(uid).append("@tarnwick.example");
    }
    ldif.append("\ntelephoneNumber: +47 555 0")
        .append(100 + random.nextInt(900))
        .append("\n\n");
    if (i % 3 == 0) {
      crew.append("member: ").append(dn).append('\n');
    }
  }
}
