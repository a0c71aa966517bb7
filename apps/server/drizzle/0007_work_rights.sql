-- Work done is added to, never changed; so are the site's own rows.
GRANT SELECT, INSERT ON work_log, site_rows TO calm_loop_app;
