-- The instant up to which a delivery has spoken: what it says of itself, else the newest instant that a row of
-- it speaks of; never later than its receipt.
ALTER TABLE import_batch ADD COLUMN told_until INTEGER CHECK (told_until <= received_at);
-- Of those that came before, what their rows speak of. What they brought unchanged is not known any more, so
-- that it may be earlier than it was; the next delivery puts that right.
UPDATE import_batch SET told_until = min(received_at, told.newest)
  FROM (SELECT feed, recorded_at, max(newest) AS newest
          FROM (SELECT feed, recorded_at, max(available) AS newest FROM recovery_point GROUP BY 1, 2
                UNION ALL SELECT feed, recorded_at, max(finished) FROM copy GROUP BY 1, 2
                UNION ALL SELECT feed, recorded_at, max(ended) FROM job GROUP BY 1, 2
                UNION ALL SELECT feed, recorded_at, max(last_seen) FROM resource GROUP BY 1, 2)
         GROUP BY feed, recorded_at) AS told
 WHERE told.feed = import_batch.feed AND told.recorded_at = import_batch.received_at;

-- By what was known when a pack tells of its instant: those that were issued before, by what was known then.
ALTER TABLE pack ADD COLUMN known_at INTEGER CHECK (known_at >= as_at);
UPDATE pack SET known_at = as_at;
