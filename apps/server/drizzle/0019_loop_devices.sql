CREATE TABLE "loop_devices" (
	"loop_id" uuid PRIMARY KEY NOT NULL,
	"port_id" text NOT NULL,
	"port" text NOT NULL,
	"serial" text NOT NULL,
	"address" integer,
	"simulated" boolean NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
-- Which device is a loop's own may be said anew; each change is in the audit trail.
GRANT SELECT, INSERT, UPDATE, DELETE ON loop_devices TO calm_loop_app;
