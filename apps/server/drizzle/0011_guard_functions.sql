-- What the application's role may not do by itself it asks these functions for; they belong to the owner of the tables and judge who asks.
CREATE FUNCTION calm_refuse(status text, code text, says text) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION USING ERRCODE = 'CL' || status, MESSAGE = code || '|' || says;
END $$;--> statement-breakpoint

-- The audit trail is a chain: each entry holds the hash of the one before. It is closed at the commit, so that nobody waits for it longer.
CREATE FUNCTION audit_text(a audit) RETURNS text LANGUAGE sql STABLE SET search_path = public, pg_temp AS $$
  SELECT concat_ws('|', coalesce(a.previous, ''), a.chain, to_char(a.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'),
    coalesce(a.person_id::text, ''), a.action, coalesce(a.loop_id::text, ''), a.details::text)
$$;--> statement-breakpoint
CREATE FUNCTION audit_hash(a audit) RETURNS text LANGUAGE sql STABLE SET search_path = public, pg_temp AS $$
  SELECT encode(sha256(convert_to(audit_text(a), 'UTF8')), 'hex')
$$;--> statement-breakpoint
CREATE FUNCTION audit_close() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  last audit;
  mine audit;
BEGIN
  PERFORM pg_advisory_xact_lock(7204119);
  SELECT * INTO last FROM audit WHERE chain IS NOT NULL ORDER BY chain DESC LIMIT 1;
  SELECT * INTO mine FROM audit WHERE id = NEW.id;
  mine.chain := coalesce(last.chain, 0) + 1;
  mine.previous := last.hash;
  UPDATE audit SET chain = mine.chain, previous = mine.previous, hash = audit_hash(mine) WHERE id = NEW.id;
  RETURN NULL;
END $$;--> statement-breakpoint
DO $$
DECLARE
  a audit;
  place integer := 0;
  before text;
BEGIN
  FOR a IN SELECT * FROM audit ORDER BY id LOOP
    place := place + 1;
    a.chain := place;
    a.previous := before;
    before := audit_hash(a);
    UPDATE audit SET chain = a.chain, previous = a.previous, hash = before WHERE id = a.id;
  END LOOP;
END $$;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER audit_closed AFTER INSERT ON audit DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION audit_close();--> statement-breakpoint
CREATE FUNCTION audit_append(p_person uuid, p_action text, p_loop uuid, p_details jsonb) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO audit (person_id, action, loop_id, details) VALUES (p_person, p_action, p_loop, p_details)
$$;--> statement-breakpoint

-- A sealed version stays as it is, whoever asks.
CREATE FUNCTION keep_sealed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF OLD.sealed_at IS NOT NULL THEN
    PERFORM calm_refuse('409', 'version-sealed', 'This version is closed and is never changed.');
  END IF;
  IF (NEW.id, NEW.loop_id, NEW.number, NEW.parent_id, NEW.author_id, NEW.started_at)
     IS DISTINCT FROM (OLD.id, OLD.loop_id, OLD.number, OLD.parent_id, OLD.author_id, OLD.started_at) OR NEW.revision < OLD.revision THEN
    PERFORM calm_refuse('409', 'version-sealed', 'Of an open version only the entries, the reason and the closing change.');
  END IF;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER versions_sealed BEFORE UPDATE ON versions FOR EACH ROW EXECUTE FUNCTION keep_sealed();--> statement-breakpoint

-- Settings that are settled once, and those that only an administrator changes.
CREATE FUNCTION keep_settings() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF current_user = 'calm_loop_app' AND (NEW.key = 'duties' OR (TG_OP = 'UPDATE' AND OLD.key IN ('session-secret', 'demo', 'link-secret', 'first-person'))) THEN
    PERFORM calm_refuse('403', 'wrong-role', 'This setting is not changed that way.');
  END IF;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER settings_kept BEFORE INSERT OR UPDATE ON settings FOR EACH ROW EXECUTE FUNCTION keep_settings();--> statement-breakpoint

-- People: who may sign in, with which roles and which password.
CREATE FUNCTION is_administrator(p_id uuid) RETURNS boolean LANGUAGE sql STABLE SET search_path = public, pg_temp AS $$
  SELECT EXISTS (SELECT FROM people WHERE id = p_id AND 'administrator' = ANY (roles) AND NOT disabled AND password_hash IS NOT NULL)
$$;--> statement-breakpoint
CREATE FUNCTION need_administrator(p_id uuid) RETURNS void LANGUAGE plpgsql SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM pg_advisory_xact_lock(7204120);
  IF NOT is_administrator(p_id) THEN
    PERFORM calm_refuse('403', 'wrong-role', 'Only an administrator may do this.');
  END IF;
END $$;--> statement-breakpoint
CREATE FUNCTION person_known(p_id uuid, p_name text) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO people (id, name, roles) VALUES (p_id, p_name, '{}') ON CONFLICT DO NOTHING
$$;--> statement-breakpoint
CREATE FUNCTION person_first(p_id uuid, p_name text, p_sign_in text, p_hash text) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM pg_advisory_xact_lock(7204120);
  IF EXISTS (SELECT FROM people WHERE password_hash IS NOT NULL) THEN
    PERFORM calm_refuse('409', 'not-empty', 'This installation has users already. Sign in instead.');
  END IF;
  INSERT INTO people (id, name, sign_in, password_hash, roles) VALUES (p_id, p_name, p_sign_in, p_hash, '{technician,reviewer,administrator}');
  PERFORM audit_append(p_id, 'person-added', NULL, jsonb_build_object('personId', p_id, 'first', true));
END $$;--> statement-breakpoint
CREATE FUNCTION person_add(p_by uuid, p_id uuid, p_name text, p_sign_in text, p_hash text, p_roles text[]) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM need_administrator(p_by);
  INSERT INTO people (id, name, sign_in, password_hash, roles) VALUES (p_id, p_name, p_sign_in, p_hash, p_roles);
  PERFORM audit_append(p_by, 'person-added', NULL, jsonb_build_object('personId', p_id, 'roles', p_roles));
END $$;--> statement-breakpoint
CREATE FUNCTION person_access(p_by uuid, p_id uuid, p_roles text[], p_disabled boolean) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM need_administrator(p_by);
  UPDATE people SET roles = p_roles, disabled = p_disabled, stamp = stamp + 1, reset_hash = NULL WHERE id = p_id AND sign_in IS NOT NULL;
  IF NOT FOUND THEN
    PERFORM calm_refuse('404', 'not-found', 'This person is not here.');
  END IF;
  IF NOT EXISTS (SELECT FROM people WHERE 'administrator' = ANY (roles) AND NOT disabled AND password_hash IS NOT NULL) THEN
    PERFORM calm_refuse('409', 'last-administrator', 'This is the last administrator. Make another one first.');
  END IF;
  PERFORM audit_append(p_by, 'person-access', NULL, jsonb_build_object('personId', p_id, 'roles', p_roles, 'disabled', p_disabled));
END $$;--> statement-breakpoint
CREATE FUNCTION person_password(p_id uuid, p_was text, p_hash text) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE people SET password_hash = p_hash, stamp = stamp + 1, reset_hash = NULL WHERE id = p_id AND password_hash = p_was AND NOT disabled;
  IF NOT FOUND THEN
    PERFORM calm_refuse('409', 'password-changed', 'The password was changed meanwhile. Sign in again.');
  END IF;
  PERFORM audit_append(p_id, 'password-changed', NULL, '{}');
END $$;--> statement-breakpoint
CREATE FUNCTION person_reset_code(p_by uuid, p_id uuid, p_code text, p_until timestamptz) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM need_administrator(p_by);
  UPDATE people SET reset_hash = p_code, reset_until = p_until WHERE id = p_id AND sign_in IS NOT NULL;
  IF NOT FOUND THEN
    PERFORM calm_refuse('404', 'not-found', 'This person is not here.');
  END IF;
  PERFORM audit_append(p_by, 'password-reset-code', NULL, jsonb_build_object('personId', p_id));
END $$;--> statement-breakpoint
CREATE FUNCTION person_reset(p_id uuid, p_code text, p_hash text) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE people SET password_hash = p_hash, stamp = stamp + 1, reset_hash = NULL
    WHERE id = p_id AND reset_hash = p_code AND reset_until > now() AND NOT disabled;
  IF NOT FOUND THEN
    PERFORM calm_refuse('401', 'wrong-code', 'Sign-in name or code is wrong, or the code is older than a day. Ask an administrator for another.');
  END IF;
  PERFORM audit_append(p_id, 'password-reset', NULL, '{}');
END $$;--> statement-breakpoint
CREATE FUNCTION duties_set(p_by uuid, p_value jsonb) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM need_administrator(p_by);
  INSERT INTO settings (key, value) VALUES ('duties', p_value) ON CONFLICT (key) DO UPDATE SET value = p_value;
  PERFORM audit_append(p_by, 'duties-set', NULL, p_value);
END $$;--> statement-breakpoint
CREATE FUNCTION seal_key_trust(p_by uuid, p_id text, p_name text, p_key text, p_trusted boolean) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM need_administrator(p_by);
  IF EXISTS (SELECT FROM seal_keys WHERE id = p_id AND own) THEN
    PERFORM calm_refuse('409', 'own-key', 'This is a key of this installation; it is always trusted here.');
  END IF;
  INSERT INTO seal_keys (id, name, public_key, own, trusted, since) VALUES (p_id, p_name, p_key, false, p_trusted, now())
    ON CONFLICT (id) DO UPDATE SET name = p_name, trusted = p_trusted;
  PERFORM audit_append(p_by, CASE WHEN p_trusted THEN 'key-trusted' ELSE 'key-withdrawn' END, NULL, jsonb_build_object('key', p_id, 'name', p_name));
END $$;--> statement-breakpoint

-- Until now a reviewer looked after people: where nobody is administrator yet, the reviewers are.
UPDATE people SET roles = roles || '{administrator}'::text[] WHERE 'reviewer' = ANY (roles) AND password_hash IS NOT NULL
  AND NOT EXISTS (SELECT FROM people WHERE 'administrator' = ANY (roles));--> statement-breakpoint
-- Checks that a person brought in from elsewhere are known as such from now on.
UPDATE checks c SET imported = jsonb_build_object('at', to_char(a.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'), 'byId', a.person_id)
  FROM audit a WHERE a.loop_id = c.loop_id AND a.action = 'folder-imported' AND a.person_id IS NOT NULL AND c.started_at < a.at;--> statement-breakpoint

REVOKE UPDATE, INSERT ON people FROM calm_loop_app;--> statement-breakpoint
REVOKE INSERT ON audit FROM calm_loop_app;--> statement-breakpoint
REVOKE UPDATE ON loops FROM calm_loop_app;--> statement-breakpoint
GRANT UPDATE (head_version_id, state, next_due, last_error_pct, tolerance_pct) ON loops TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT ON seals TO calm_loop_app;--> statement-breakpoint
GRANT SELECT ON seal_keys TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON guesses TO calm_loop_app;--> statement-breakpoint
DO $$
DECLARE f text;
BEGIN
  FOREACH f IN ARRAY ARRAY['audit_close()', 'audit_append(uuid, text, uuid, jsonb)', 'is_administrator(uuid)', 'need_administrator(uuid)', 'person_known(uuid, text)',
    'person_first(uuid, text, text, text)', 'person_add(uuid, uuid, text, text, text, text[])', 'person_access(uuid, uuid, text[], boolean)',
    'person_password(uuid, text, text)', 'person_reset_code(uuid, uuid, text, timestamptz)', 'person_reset(uuid, text, text)', 'duties_set(uuid, jsonb)',
    'seal_key_trust(uuid, text, text, text, boolean)'] LOOP
    EXECUTE 'REVOKE ALL ON FUNCTION ' || f || ' FROM PUBLIC';
    IF f NOT IN ('audit_close()', 'need_administrator(uuid)') THEN
      EXECUTE 'GRANT EXECUTE ON FUNCTION ' || f || ' TO calm_loop_app';
    END IF;
  END LOOP;
END $$;
