-- The bench plays devices; how they stand is no record and is written over.
GRANT SELECT, INSERT, UPDATE ON benches TO calm_loop_app;
