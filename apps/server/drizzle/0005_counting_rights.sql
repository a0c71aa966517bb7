-- What was counted is added to, never changed.
GRANT SELECT, INSERT ON edge_trains, count_log TO calm_loop_app;
