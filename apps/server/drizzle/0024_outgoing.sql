CREATE TABLE "out_messages" (
	"seq" bigserial PRIMARY KEY NOT NULL,
	"body" jsonb NOT NULL
);
--> statement-breakpoint
GRANT SELECT, INSERT, DELETE ON out_messages TO calm_loop_app;--> statement-breakpoint
GRANT USAGE ON SEQUENCE out_messages_seq_seq TO calm_loop_app;--> statement-breakpoint
-- How a loop stands is told whenever that changes, whoever changed it. The server throws it away where nobody listens.
CREATE FUNCTION tell_loop() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  told uuid := gen_random_uuid();
  now_at timestamptz(3) := now();
BEGIN
  IF EXISTS (SELECT FROM settings WHERE key = 'outgoing') THEN
    INSERT INTO out_messages (body) VALUES (jsonb_build_object(
      'id', told, 'kind', 'loop', 'at', to_char(now_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'),
      'loop', jsonb_build_object('id', NEW.id, 'tag', NEW.tag, 'area', NEW.area), 'state', NEW.state,
      'lastErrorPct', NEW.last_error_pct, 'tolerancePct', NEW.tolerance_pct, 'nextDue', to_char(NEW.next_due, 'YYYY-MM-DD')));
  END IF;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER loops_told_new AFTER INSERT ON loops FOR EACH ROW EXECUTE FUNCTION tell_loop();--> statement-breakpoint
CREATE TRIGGER loops_told AFTER UPDATE ON loops FOR EACH ROW
  WHEN ((OLD.state, OLD.next_due, OLD.last_error_pct, OLD.tolerance_pct) IS DISTINCT FROM (NEW.state, NEW.next_due, NEW.last_error_pct, NEW.tolerance_pct))
  EXECUTE FUNCTION tell_loop();
