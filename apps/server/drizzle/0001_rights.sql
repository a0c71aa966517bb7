-- The application's role may add to the record, never change or remove it.
DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'calm_loop_app') THEN
    CREATE ROLE calm_loop_app NOLOGIN;
  END IF;
END $$;--> statement-breakpoint
DO $$ BEGIN
  -- Lets the owner of an outside database act as the application (DATABASE_URL with one user).
  IF NOT pg_has_role(current_user, 'calm_loop_app', 'MEMBER') THEN
    EXECUTE format('GRANT calm_loop_app TO %I', current_user);
  END IF;
END $$;--> statement-breakpoint
GRANT USAGE ON SCHEMA public TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE ON settings, people, loops, versions, gear TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON sessions TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT ON checks, gates, readings, signatures, audit TO calm_loop_app;--> statement-breakpoint
GRANT USAGE ON SEQUENCE audit_id_seq TO calm_loop_app;
