package hardproof.proving.formats;

/** What an artifact holds. */
public enum Content {
  /** Files and folders. */
  FILES(""),
  /** A BagIt bag (RFC 8493): files with their manifests. */
  BAG("bag"),
  /** A container application: YAML manifests and an archive for each volume. */
  APPLICATION("app"),
  /** One SQLite database file. */
  SQLITE("sqlite"),
  /** A dump of SQL statements in SQLite's dialect. */
  SQL("sql"),
  /** A plain dump of PostgreSQL, as pg_dump writes it. */
  POSTGRES("pgsql"),
  /** An archive that pg_dump wrote in a form of its own: one file, or a folder of files. */
  PGDUMP("pgdump"),
  /** A plain dump of MariaDB or MySQL. */
  MARIADB("mariadb"),
  /** Entries of a directory as LDIF (RFC 2849). */
  LDIF("ldif"),
  /** A disk, byte for byte. */
  IMAGE("img"),
  /** A disk in qcow2 form. */
  QCOW2("qcow2"),
  /** A disk in vmdk form. */
  VMDK("vmdk"),
  /** A disk in vdi form. */
  VDI("vdi"),
  /** A disk in vhd form, as "vpc" too. */
  VHD("vhd"),
  /** A disk in vhdx form. */
  VHDX("vhdx");

  private final String code;

  Content(String code) {
    this.code = code;
  }

  String code() {
    return code;
  }

  /** It may be files below a folder. */
  boolean folders() {
    return this == FILES || this == BAG || this == APPLICATION || this == PGDUMP;
  }

  /** It may be one file. */
  boolean single() {
    return this == PGDUMP || !folders();
  }

  /** A disk of a machine. */
  public boolean disk() {
    return compareTo(IMAGE) >= 0;
  }
}
