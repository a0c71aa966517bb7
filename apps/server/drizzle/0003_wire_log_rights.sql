-- The log of wiring work is added to, never changed.
GRANT SELECT, INSERT ON wire_log TO calm_loop_app;
