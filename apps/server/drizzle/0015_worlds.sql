CREATE TABLE "bench_links" (
	"loop_id" uuid PRIMARY KEY NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "checks" ADD COLUMN "practice" boolean;--> statement-breakpoint
ALTER TABLE "edge_trains" ADD COLUMN "practice" boolean;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "origins" jsonb;--> statement-breakpoint
ALTER TABLE "bench_links" ADD CONSTRAINT "bench_links_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_links" ADD CONSTRAINT "bench_links_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- Whether the bench is connected is no record; the audit trail keeps both ends.
GRANT SELECT, INSERT, DELETE ON bench_links TO calm_loop_app;
