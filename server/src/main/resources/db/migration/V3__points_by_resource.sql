-- An estate that does not fit into memory is judged one resource at a time.
CREATE INDEX recovery_point_by_resource ON recovery_point (resource, data_time);
