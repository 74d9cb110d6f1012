-- When the credentials that backups of a resource use last changed, and when they were last tested.
ALTER TABLE resource ADD COLUMN credentials_changed INTEGER;
ALTER TABLE resource ADD COLUMN credentials_tested INTEGER;
