package hardproof.server.outside;

import hardproof.core.wording.WrongValue;
import hardproof.proving.checks.Check;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.net.URI;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;

/**
 * Where outside checks may be sent: to hosts that an administrator has named, and to no others. Whoever
 * writes a check could else have this server call whatever it can reach.
 */
public final class OutsideHosts {
  private static final int MOST = 100;

  private final Database database;

  public OutsideHosts(Database database) {
    this.database = database;
  }

  /** Hosts, each with a port where only that is allowed; by name. */
  public List<String> allowed() {
    return database
        .reads()
        .sql("SELECT host FROM outside_host ORDER BY host")
        .query(String.class)
        .list();
  }

  /**
   * Allows these and no others.
   *
   * @throws WrongValue naming what is no host
   */
  public void allow(List<String> hosts, String by, Instant now) {
    if (hosts.size() > MOST) {
      throw new WrongValue("more than " + MOST + " hosts");
    }
    TreeSet<String> clean = clean(hosts);
    database.write(() -> {
      database.writes().sql("DELETE FROM outside_host").update();
      insert(by, now, clean);
      return null;
    });
  }

  private static TreeSet<String> clean(List<String> hosts) {
    TreeSet<String> clean = new TreeSet<>();
    for (String host : hosts) {
      String small = host.strip().toLowerCase(Locale.ROOT);
      if (!small.matches("([a-z0-9._-]{1,253}|\\[[0-9a-f:.]{2,45}\\])(:\\d{1,5})?")) {
        throw new WrongValue(
            "'" + host.strip() + "' is no host; write it as proof.example or proof.example:8443");
      }
      clean.add(small);
    }
    return clean;
  }

  private void insert(String by, Instant now, TreeSet<String> clean) {
    for (String host : clean) {
      database
          .writes()
          .sql("INSERT INTO outside_host VALUES (:host, :by, :now)")
          .param("host", host)
          .param("by", by)
          .param("now", now.toEpochMilli())
          .update();
    }
  }

  /** Why an address may not be asked, null when it may. */
  public String refusal(String address) {
    URI uri = URI.create(address);
    String host = uri.getHost().toLowerCase(Locale.ROOT);
    int port = uri.getPort() >= 0 ? uri.getPort() : uri.getScheme().equals("https") ? 443 : 80;
    List<String> allowed = allowed();
    return allowed.contains(host) || allowed.contains(host + ":" + port)
        ? null
        : host + " may not be asked from here. An administrator allows it on the page Engines and"
            + " sandboxes, as " + host + " or " + host + ":" + port + ".";
  }

  /**
   * Takes the address of a webhook.
   *
   * @throws WrongValue where it is none, or one that nothing may be sent to
   */
  public void requireAllowed(String address) {
    URI uri;
    try {
      uri = URI.create(address);
    } catch (IllegalArgumentException e) {
      throw new WrongValue("'" + address + "' is no web address; write it as https://host/path", e);
    }
    if (uri.getHost() == null || !List.of("http", "https").contains(uri.getScheme())) {
      throw new WrongValue("'" + address + "' is no web address; write it as https://host/path");
    }
    String refusal = refusal(address);
    if (refusal != null) {
      throw new WrongValue(refusal);
    }
  }

  /**
   * @throws Refused when a check would ask somebody who may not be asked
   */
  public void refuse(List<Check> checks) {
    for (Check check : checks) {
      String refusal = check.outside() ? refusal(check.subject()) : null;
      if (refusal != null) {
        throw new Refused(refusal);
      }
    }
  }
}
