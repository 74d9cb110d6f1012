-- What a restore needs besides the data, and when it was last tried.
ALTER TABLE resource ADD COLUMN key_places TEXT;
ALTER TABLE resource ADD COLUMN kit TEXT;
ALTER TABLE resource ADD COLUMN kit_tried INTEGER;
ALTER TABLE resource ADD COLUMN runbook TEXT;
ALTER TABLE resource ADD COLUMN runbook_tried INTEGER;
ALTER TABLE resource ADD COLUMN licence TEXT;
ALTER TABLE resource ADD COLUMN licence_until INTEGER;
ALTER TABLE resource ADD COLUMN restorers TEXT;
