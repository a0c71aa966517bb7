CREATE TABLE "link_leases" (
	"loop_id" uuid PRIMARY KEY NOT NULL,
	"holder" text NOT NULL,
	"address" text NOT NULL,
	"until" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "link_leases" ADD CONSTRAINT "link_leases_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- Who holds a device is no record: it is taken, prolonged and given back.
GRANT SELECT, INSERT, UPDATE, DELETE ON link_leases TO calm_loop_app;
