-- An estate that does not fit into memory is judged one resource at a time. What is current is found by the
-- indexes there are; what is over is little, and has an index of its own.
CREATE INDEX recovery_point_by_resource ON recovery_point (resource, data_time);
CREATE INDEX copy_past ON copy (point) WHERE replaced_at IS NOT NULL;
