CREATE TABLE "adapters_used" (
	"adapter" text PRIMARY KEY NOT NULL,
	"path" text NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "device_descriptions" (
	"id" text NOT NULL,
	"version" integer NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "device_descriptions_id_version_pk" PRIMARY KEY("id","version")
);
--> statement-breakpoint
CREATE TABLE "device_files" (
	"id" uuid PRIMARY KEY NOT NULL,
	"serial" text NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "device_writes" (
	"id" uuid NOT NULL,
	"parameter" text NOT NULL,
	"serial" text NOT NULL,
	"label" text NOT NULL,
	"from" jsonb,
	"to" jsonb,
	"held" jsonb,
	"state" text NOT NULL,
	"says" text NOT NULL,
	"by" uuid NOT NULL,
	"by_name" text NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "device_writes_id_parameter_pk" PRIMARY KEY("id","parameter")
);
--> statement-breakpoint
CREATE TABLE "gateways" (
	"id" text PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"host" text NOT NULL,
	"port" integer NOT NULL,
	"protocol" text NOT NULL
);
--> statement-breakpoint
CREATE INDEX "device_files_serial" ON "device_files" USING btree ("serial","at");--> statement-breakpoint
CREATE INDEX "device_writes_serial" ON "device_writes" USING btree ("serial","at");--> statement-breakpoint
-- What was imported, saved or written stays; of a write only what became of it is added.
GRANT SELECT, INSERT, UPDATE ON gateways, adapters_used TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT ON device_descriptions, device_files TO calm_loop_app;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE (held, state, says) ON device_writes TO calm_loop_app;
