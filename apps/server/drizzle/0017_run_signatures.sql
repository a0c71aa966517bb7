ALTER TABLE "seals" DROP CONSTRAINT "seals_signature_id_signatures_id_fk";
--> statement-breakpoint
CREATE INDEX "work_log_digest" ON "work_log" USING btree (("body"->>'digest')) WHERE what = 'run-signed';