-- When the credentials that backups of a resource use last changed, and when they were last tested.
ALTER TABLE resource ADD COLUMN credentials_changed INTEGER;
ALTER TABLE resource ADD COLUMN credentials_tested INTEGER;
-- Points are found by their resource alone: the shorter index is made in half the time.
DROP INDEX recovery_point_by_resource;
CREATE INDEX recovery_point_by_resource ON recovery_point (resource);
