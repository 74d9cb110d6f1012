package hardproof.proving.formats;

import hardproof.core.wording.WrongValue;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Format of an artifact: {@code tar.zst} is files, in a tar, compressed by zstd. */
public record ArtifactFormat(Content content, Packing packing, Compression compression) {
  private static final Map<String, ArtifactFormat> BY_CODE = byCode();

  private static Map<String, ArtifactFormat> byCode() {
    Map<String, ArtifactFormat> formats = new LinkedHashMap<>();
    for (Content content : Content.values()) {
      if (content.single()) {
        addSingle(formats, content);
      }
      if (!content.folders()) {
        continue;
      }
      add(formats, new ArtifactFormat(content, Packing.FOLDER, Compression.NONE));
      addPacked(formats, content);
    }
    addAliases(formats);
    return formats;
  }

  private static void addSingle(Map<String, ArtifactFormat> formats, Content content) {
    for (Compression compression : Compression.values()) {
      add(formats, new ArtifactFormat(content, Packing.SINGLE, compression));
    }
  }

  private static void addPacked(Map<String, ArtifactFormat> formats, Content content) {
    for (Packing packing : Packing.values()) {
      if (packing.stream()) {
        for (Compression compression : Compression.values()) {
          add(formats, new ArtifactFormat(content, packing, compression));
        }
      } else if (packing.seeks()) {
        add(formats, new ArtifactFormat(content, packing, Compression.NONE));
      }
    }
  }

  private static void addAliases(Map<String, ArtifactFormat> formats) {
    formats.put("tgz", formats.get("tar.gz"));
    formats.put("tbz2", formats.get("tar.bz2"));
    formats.put("txz", formats.get("tar.xz"));
    formats.put("raw", formats.get("img"));
    formats.put("vpc", formats.get("vhd"));
    for (Compression compression : Compression.values()) {
      formats.put("mysql" + compression.suffix(), formats.get("mariadb" + compression.suffix()));
    }
  }

  private static void add(Map<String, ArtifactFormat> formats, ArtifactFormat format) {
    formats.put(format.code(), format);
  }

  /** The code as the field {@code format} of copies has it, {@code app.tar.gz} for example. */
  public String code() {
    boolean plain = packing == Packing.FOLDER && content != Content.FILES && !content.single();
    String packed = plain ? "" : packing.code();
    String dot = content.code().isEmpty() || packed.isEmpty() ? "" : ".";
    return content.code() + dot + packed + compression.suffix();
  }

  /** The format of a code, whatever its case; empty when there is none or it is null. */
  public static Optional<ArtifactFormat> named(String code) {
    return code == null
        ? Optional.empty()
        : Optional.ofNullable(BY_CODE.get(code.strip().toLowerCase(Locale.ROOT)));
  }

  /**
   * A code as facts have it.
   *
   * @throws WrongValue when no format is called so, naming some that are
   */
  public static String read(String code) {
    if (named(code).isEmpty()) {
      throw new WrongValue("is no format that is known here: tar, tar.gz, tar.zst, zip, 7z,"
          + " folder, sqlite, sql, pgsql, pgdump, ldif, app, img, qcow2 and others (docs/formats.md lists"
          + " them all). Leave it empty for any other");
    }
    return code.strip();
  }

  /** Every code that is read. */
  public static List<String> codes() {
    return List.copyOf(BY_CODE.keySet());
  }

  /** Files below a folder, once restored; otherwise one file. */
  public boolean tree() {
    return packing != Packing.SINGLE;
  }
}
