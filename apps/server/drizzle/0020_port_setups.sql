CREATE TABLE "port_setups" (
	"port_id" text PRIMARY KEY NOT NULL,
	"protocol" text NOT NULL,
	"baud" integer NOT NULL,
	"parity" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE ON port_setups TO calm_loop_app;
