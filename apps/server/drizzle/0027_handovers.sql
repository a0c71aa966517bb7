CREATE TABLE "handover_reads" (
	"handover_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "handover_reads_handover_id_by_pk" PRIMARY KEY("handover_id","by")
);
--> statement-breakpoint
CREATE TABLE "handovers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"body" jsonb NOT NULL,
	"shift" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "handover_reads" ADD CONSTRAINT "handover_reads_handover_id_handovers_id_fk" FOREIGN KEY ("handover_id") REFERENCES "public"."handovers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handover_reads" ADD CONSTRAINT "handover_reads_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handovers" ADD CONSTRAINT "handovers_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "handovers_at" ON "handovers" USING btree ("at");--> statement-breakpoint
CREATE INDEX "readings_saved" ON "readings" USING brin ("saved_at");--> statement-breakpoint
CREATE INDEX "work_log_at" ON "work_log" USING brin ("at");--> statement-breakpoint
GRANT SELECT, INSERT ON handovers, handover_reads TO calm_loop_app;
