CREATE TABLE "wire_log" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "wire_log_seq" UNIQUE("loop_id","seq")
);
--> statement-breakpoint
ALTER TABLE "wire_log" ADD CONSTRAINT "wire_log_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "wire_log" ADD CONSTRAINT "wire_log_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;