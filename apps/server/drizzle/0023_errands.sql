CREATE TABLE "errand_parts" (
	"errand_id" uuid NOT NULL,
	"way" text NOT NULL,
	"part" integer NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"data" "bytea" NOT NULL,
	CONSTRAINT "errand_parts_errand_id_way_part_pk" PRIMARY KEY("errand_id","way","part")
);
--> statement-breakpoint
CREATE TABLE "errands" (
	"id" uuid PRIMARY KEY NOT NULL,
	"wish" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"state" text NOT NULL,
	"share" real DEFAULT 0 NOT NULL,
	"says" text DEFAULT '' NOT NULL,
	"left_out" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"file" integer,
	"address" text NOT NULL,
	"doer" text,
	"beat_at" timestamp (3) with time zone,
	"tries" integer DEFAULT 0 NOT NULL,
	"ended_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "recorded_points" (
	"loop_id" uuid PRIMARY KEY NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "errands" ADD CONSTRAINT "errands_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recorded_points" ADD CONSTRAINT "recorded_points_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "errands_by" ON "errands" USING btree ("by","at");--> statement-breakpoint
CREATE INDEX "errands_state" ON "errands" USING btree ("state");--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON errands TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT, DELETE ON errand_parts TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT, DELETE ON recorded_points TO calm_loop_app;
