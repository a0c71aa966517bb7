CREATE TABLE "kit_calibrations" (
	"id" uuid PRIMARY KEY NOT NULL,
	"gear_id" uuid NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "kit_certificates" (
	"calibration_id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"digest" text NOT NULL,
	"file" "bytea" NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "kit_calibrations" ADD CONSTRAINT "kit_calibrations_gear_id_gear_id_fk" FOREIGN KEY ("gear_id") REFERENCES "public"."gear"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kit_calibrations" ADD CONSTRAINT "kit_calibrations_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kit_certificates" ADD CONSTRAINT "kit_certificates_calibration_id_kit_calibrations_id_fk" FOREIGN KEY ("calibration_id") REFERENCES "public"."kit_calibrations"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kit_certificates" ADD CONSTRAINT "kit_certificates_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "kit_calibrations_gear" ON "kit_calibrations" USING btree ("gear_id");--> statement-breakpoint
CREATE INDEX "checks_gear" ON "checks" USING gin ("gear" jsonb_path_ops);--> statement-breakpoint
GRANT SELECT, INSERT ON kit_calibrations, kit_certificates TO calm_loop_app;
