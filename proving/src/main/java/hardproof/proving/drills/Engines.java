package hardproof.proving.drills;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.qemu.QemuEngine;
import hardproof.proving.boot.standin.StandInEngine;
import hardproof.proving.databases.MariaDbEngine;
import hardproof.proving.databases.PostgresEngine;
import hardproof.proving.encryption.Keys;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The engines that are on this machine, looked for once. */
public final class Engines {
  private final Path work;
  private final Keys keys;
  private final BootEngine standIn = new StandInEngine();
  private QemuEngine.Found qemu;
  private PostgresEngine.Found postgres;
  private MariaDbEngine.Found mariaDb;

  /**
   * An engine, for people.
   *
   * @param sentence its version, or how to add it
   */
  public record Shown(String code, String what, boolean present, String sentence) {}

  /**
   * @param work a folder for what an engine's self-test writes
   */
  public Engines(Path work) {
    this(work, Keys.none());
  }

  /**
   * @param work a folder for what an engine's self-test writes
   * @param keys for what is encrypted
   */
  public Engines(Path work, Keys keys) {
    this.work = work;
    this.keys = keys;
  }

  Keys keys() {
    return keys;
  }

  private synchronized QemuEngine.Found qemu() {
    if (qemu == null) {
      qemu = QemuEngine.find(work);
    }
    return qemu;
  }

  private synchronized PostgresEngine.Found postgresFound() {
    if (postgres == null) {
      postgres = PostgresEngine.find();
    }
    return postgres;
  }

  private synchronized MariaDbEngine.Found mariaDbFound() {
    if (mariaDb == null) {
      mariaDb = MariaDbEngine.find();
    }
    return mariaDb;
  }

  MariaDbEngine mariaDb() {
    return mariaDbFound().engine();
  }

  /** Why MariaDB can't be used; null when it can. */
  String mariaDbRefusal() {
    MariaDbEngine.Found found = mariaDbFound();
    return found.engine() == null ? found.sentence() : null;
  }

  /** Looks again for everything, as after something was installed. */
  public synchronized void lookAgain() {
    qemu = null;
    postgres = null;
    mariaDb = null;
    all();
  }

  /** Every engine with whether it is here. The first call takes some seconds. */
  public List<Shown> all() {
    List<Shown> shown = new ArrayList<>();
    shown.add(
        new Shown("sqlite", "databases: SQLite files and dumps", true, "ships with Hard Proof"));
    PostgresEngine.Found p = postgresFound();
    shown.add(new Shown(
        "postgresql", "databases: dumps of PostgreSQL", p.engine() != null, p.sentence()));
    MariaDbEngine.Found m = mariaDbFound();
    shown.add(new Shown(
        "mariadb", "databases: dumps of MariaDB and MySQL", m.engine() != null, m.sentence()));
    shown.add(new Shown("directory", "directories: LDIF", true, "ships with Hard Proof"));
    shown.add(new Shown("stand-in", "machines: simple boot code", true, "ships with Hard Proof"));
    QemuEngine.Found q = qemu();
    shown.add(new Shown("qemu", "machines: whole systems", q.engine() != null, q.sentence()));
    shown.add(
        new Shown("keys", "encrypted artifacts: age, openssl, OpenPGP", true, keys.sentence()));
    return shown;
  }

  PostgresEngine postgres() {
    return postgresFound().engine();
  }

  /** Why PostgreSQL can't be used; null when it can. */
  String postgresRefusal() {
    PostgresEngine.Found found = postgresFound();
    return found.engine() == null ? found.sentence() : null;
  }

  /** The boot engine of a code; null when it is not here. */
  BootEngine boot(String code) {
    return code.equals(standIn.code()) ? standIn : code.equals("qemu") ? qemu().engine() : null;
  }

  String bootRefusal(String code) {
    return code.equals("qemu") ? qemu().sentence() : "there are stand-in and qemu";
  }

  /** What a person can do when the stand-in engine is not enough. */
  String bootSentence(String code) {
    return qemu().engine() == null ? qemu().sentence() : "Choose the engine " + code + " for it.";
  }
}
