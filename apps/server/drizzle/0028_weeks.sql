CREATE TABLE "calendar_feeds" (
	"person_id" uuid PRIMARY KEY NOT NULL,
	"of" text NOT NULL,
	"hash" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "calendar_feeds_hash_unique" UNIQUE("hash")
);
--> statement-breakpoint
CREATE TABLE "plan_pins" (
	"loop_id" uuid PRIMARY KEY NOT NULL,
	"due" date NOT NULL,
	"day" date,
	"person_id" uuid,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "calendar_feeds" ADD CONSTRAINT "calendar_feeds_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_pins" ADD CONSTRAINT "plan_pins_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_pins" ADD CONSTRAINT "plan_pins_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_pins" ADD CONSTRAINT "plan_pins_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON plan_pins, calendar_feeds TO calm_loop_app;
