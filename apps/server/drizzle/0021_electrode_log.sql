CREATE TABLE "electrode_log" (
	"id" uuid PRIMARY KEY NOT NULL,
	"electrode_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"what" text NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "electrode_log_seq" UNIQUE("electrode_id","seq")
);
--> statement-breakpoint
CREATE UNIQUE INDEX "electrode_log_serial" ON "electrode_log" USING btree (lower("body"->>'serial')) WHERE what = 'entered';--> statement-breakpoint
CREATE INDEX "electrode_log_what" ON "electrode_log" USING btree ("what");--> statement-breakpoint
-- What is on record of an electrode is added to, never changed.
GRANT SELECT, INSERT ON electrode_log TO calm_loop_app;
