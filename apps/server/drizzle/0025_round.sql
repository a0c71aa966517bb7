CREATE TABLE "job_ends" (
	"job_id" uuid PRIMARY KEY NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "jobs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "kit_moves" (
	"id" uuid PRIMARY KEY NOT NULL,
	"gear_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"holder" uuid,
	"place" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "kit_moves_seq" UNIQUE("gear_id","seq")
);
--> statement-breakpoint
CREATE TABLE "rounds" (
	"person_id" uuid NOT NULL,
	"day" date NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "rounds_person_id_day_pk" PRIMARY KEY("person_id","day")
);
--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "round" jsonb;--> statement-breakpoint
ALTER TABLE "job_ends" ADD CONSTRAINT "job_ends_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "job_ends" ADD CONSTRAINT "job_ends_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kit_moves" ADD CONSTRAINT "kit_moves_gear_id_gear_id_fk" FOREIGN KEY ("gear_id") REFERENCES "public"."gear"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kit_moves" ADD CONSTRAINT "kit_moves_holder_people_id_fk" FOREIGN KEY ("holder") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kit_moves" ADD CONSTRAINT "kit_moves_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rounds" ADD CONSTRAINT "rounds_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "jobs_loop" ON "jobs" USING btree ("loop_id");--> statement-breakpoint
GRANT SELECT, INSERT ON jobs, job_ends, kit_moves TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON rounds TO calm_loop_app;
--> statement-breakpoint
GRANT UPDATE (round) ON loops TO calm_loop_app;
