package hardproof.server.ledger;

import hardproof.core.wording.Coded;

/**
 * What has entries in the ledger. Each knows which of its facts there are, and what an entry holds of one: all that is
 * never changed once it is recorded.
 */
public enum LedgerKind implements Coded {
  /** A drill as it ended, with its steps. */
  DRILL("SELECT id, ended_at FROM drill_run WHERE ended_at IS NOT NULL", """
      SELECT requested_by AS actor, ended_at AS at, resource, point, store, method, reaches, restore, checks,
             checks_asked, options, programme, reason, queued_at, started_at, worked_until, ended_at, bytes,
             reading_ms, blamed_point, blamed_store, newest_data, sentence
        FROM drill_run WHERE id = :key AND ended_at IS NOT NULL
      """, """
      SELECT name, state, started_at, ended_at, message FROM drill_step WHERE run = :key ORDER BY number
      """),
  /** A rehearsal as it ended, with its members. */
  REHEARSAL("SELECT id, ended_at FROM rehearsal WHERE ended_at IS NOT NULL", """
      SELECT requested_by AS actor, ended_at AS at, workload, moment, loss, lost, at_once, reason, programme, queued_at,
             started_at, ended_at, planned_ms, rto_ms, outcome, clock_ms, expected_ms, path, sentence
        FROM rehearsal WHERE id = :key AND ended_at IS NOT NULL
      """, """
      SELECT resource, comes_with, needs, point, store, run, state, sentence
        FROM rehearsal_member WHERE rehearsal = :key ORDER BY number
      """),
  /** What the clean-up after a drill came to. */
  CLEAN_UP(
      "SELECT run || ' ' || at || ' ' || state, at FROM cleanup_change",
      "SELECT '' AS actor, at, run, state FROM cleanup_change WHERE run || ' ' || at || ' ' || state = :key"
          + " AND run = substr(:key, 1, instr(:key, ' ') - 1)"),
  /** An artifact that a sweep read through. */
  READ_BACK("SELECT id, ended_at FROM read_back", """
      SELECT '' AS actor, ended_at AS at, sweep, resource, point, store, started_at, ended_at, restore, checks, reaches,
             bytes, sentence
        FROM read_back WHERE id = CAST(:key AS INTEGER)
      """),
  /** A list of a store, and how many of the copies that are claimed to be there are as claimed. */
  CENSUS("SELECT id, ended_at FROM census WHERE ended_at IS NOT NULL", """
      SELECT asked_by AS actor, ended_at AS at, store, state, started_at, listed, listed_bytes, older_bytes, claimed,
             there, gone, other_size, other_sum, newer, shorter_lock, no_place, locks_asked, locks_known, untold,
             untold_bytes, clock_ahead_ms, sentence
        FROM census WHERE id = CAST(:key AS INTEGER) AND ended_at IS NOT NULL
      """),
  /** A copy that a census found not to be as claimed, or to be so again. */
  CENSUS_FACT("SELECT id, at FROM census_fact WHERE state <> 'held'", """
      SELECT '' AS actor, at, census, resource, point, store, state, locked_until, sentence
        FROM census_fact WHERE id = CAST(:key AS INTEGER)
      """),
  /** A state of an exception: proposed, approved, refused, ended. */
  EXCEPTION("SELECT recorded_at || ' ' || key, recorded_at FROM exception", """
      SELECT coalesce(refused_by, approved_by, proposed_by, '') AS actor, recorded_at AS at, feed, key AS exception, scope,
             criterion, reason, proposed_by, approved_by, refused_by, from_time, until_time
        FROM exception
       WHERE key = substr(:key, instr(:key, ' ') + 1)
         AND recorded_at = CAST(substr(:key, 1, instr(:key, ' ') - 1) AS INTEGER)
      """),
  /** A version of a standard. */
  STANDARD("SELECT version || ' ' || name, saved_at FROM standard", """
      SELECT saved_by AS actor, saved_at AS at, name, version, body, note
        FROM standard
       WHERE name = substr(:key, instr(:key, ' ') + 1)
         AND version = CAST(substr(:key, 1, instr(:key, ' ') - 1) AS INTEGER)
      """),
  /** From when on a standard holds. */
  STANDARD_IN_FORCE(
      "SELECT id, since FROM standard_in_force",
      "SELECT chosen_by AS actor, since AS at, name, version, since FROM standard_in_force"
          + " WHERE id = CAST(:key AS INTEGER)"),
  /** A draw of points: the seed, and what it was drawn from. */
  DRAW("SELECT due_at || ' ' || programme, due_at FROM programme_draw", """
      SELECT '' AS actor, due_at AS at, programme, due_at, known, seed, digest, sample
        FROM programme_draw
       WHERE programme = substr(:key, instr(:key, ' ') + 1)
         AND due_at = CAST(substr(:key, 1, instr(:key, ' ') - 1) AS INTEGER)
      """),
  /** A pack that was issued. */
  PACK("SELECT id, made_at FROM pack", """
      SELECT made_by AS actor, made_at AS at, name, title, scope, as_at, known_at, bytes, sha256, workloads, proven
        FROM pack WHERE id = CAST(:key AS INTEGER)
      """),
  /** What all outcomes came to on a day. */
  OUTCOMES("SELECT id, as_at FROM outcome_snapshot", """
      SELECT '' AS actor, as_at AS at, known_at, standard, verdicts, outcomes, workloads_sha256, findings_sha256
        FROM outcome_snapshot WHERE id = CAST(:key AS INTEGER)
      """),
  /** What a person did, signing in among it. */
  ACTIVITY(
      "SELECT id, at FROM activity",
      "SELECT by AS actor, at, what, subject, detail FROM activity WHERE id = CAST(:key AS INTEGER)"),
  /** A key that signs heads: made, followed by another, ended. Of these there is nothing but the entry. */
  KEY(null, null);

  private final String all;
  private final String one;
  private final String steps;

  LedgerKind(String all, String one) {
    this(all, one, null);
  }

  LedgerKind(String all, String one, String steps) {
    this.all = all;
    this.one = one;
    this.steps = steps;
  }

  /** For people. */
  String words() {
    return code().replace('-', ' ');
  }

  /** Keys of all that there are, and when each was; null where nothing but the entry is kept. */
  String all() {
    return all;
  }

  /** Who, when, and what an entry holds, by {@code :key}; null where nothing but the entry is kept. */
  String one() {
    return one;
  }

  /** The rows that belong to one, by {@code :key}; null where there are none. */
  String steps() {
    return steps;
  }
}
