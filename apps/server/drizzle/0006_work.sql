CREATE TABLE "site_rows" (
	"id" uuid PRIMARY KEY NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "work_log" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"what" text NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "work_log_seq" UNIQUE("loop_id","seq")
);
--> statement-breakpoint
ALTER TABLE "site_rows" ADD CONSTRAINT "site_rows_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_log" ADD CONSTRAINT "work_log_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_log" ADD CONSTRAINT "work_log_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "work_log_what" ON "work_log" USING btree ("loop_id","what");