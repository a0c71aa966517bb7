CREATE TABLE "count_log" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"body" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "count_log_seq" UNIQUE("loop_id","seq")
);
--> statement-breakpoint
CREATE TABLE "edge_trains" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"start_ms" bigint NOT NULL,
	"end_ms" bigint NOT NULL,
	"start_state" boolean NOT NULL,
	"changes" integer NOT NULL,
	"gaps" text NOT NULL,
	"origin" text NOT NULL,
	"note" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "count_log" ADD CONSTRAINT "count_log_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_log" ADD CONSTRAINT "count_log_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "edge_trains" ADD CONSTRAINT "edge_trains_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "edge_trains" ADD CONSTRAINT "edge_trains_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "edge_trains_loop" ON "edge_trains" USING btree ("loop_id","start_ms");