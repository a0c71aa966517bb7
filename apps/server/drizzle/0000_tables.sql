CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "audit" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"person_id" uuid,
	"action" text NOT NULL,
	"loop_id" uuid,
	"details" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "checks" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"phase" text NOT NULL,
	"tolerance_pct" double precision NOT NULL,
	"range" jsonb NOT NULL,
	"points" jsonb NOT NULL,
	"gear" jsonb NOT NULL,
	"ambient" text NOT NULL,
	"started_by" uuid NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "gates" (
	"id" uuid PRIMARY KEY NOT NULL,
	"check_id" uuid NOT NULL,
	"gate" text NOT NULL,
	"words" text NOT NULL,
	"told" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "gates_once" UNIQUE("check_id","gate")
);
--> statement-breakpoint
CREATE TABLE "gear" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"serial" text NOT NULL,
	"measures" text NOT NULL,
	"range" text NOT NULL,
	"uncertainty" text NOT NULL,
	"due" date NOT NULL
);
--> statement-breakpoint
CREATE TABLE "loops" (
	"id" uuid PRIMARY KEY NOT NULL,
	"tag" text NOT NULL,
	"service" text NOT NULL,
	"area" text NOT NULL,
	"kind" text NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"head_version_id" uuid,
	"search" text GENERATED ALWAYS AS (lower("loops"."tag" || ' ' || "loops"."service" || ' ' || "loops"."area")) STORED NOT NULL,
	"state" text NOT NULL,
	"next_due" date,
	"last_error_pct" double precision,
	"tolerance_pct" double precision,
	CONSTRAINT "loops_tag_unique" UNIQUE("tag")
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"sign_in" text,
	"password_hash" text,
	"roles" text[] NOT NULL,
	"demo" boolean DEFAULT false NOT NULL,
	CONSTRAINT "people_sign_in_unique" UNIQUE("sign_in")
);
--> statement-breakpoint
CREATE TABLE "readings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"check_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"point_index" integer NOT NULL,
	"percent" double precision NOT NULL,
	"direction" text NOT NULL,
	"applied" jsonb NOT NULL,
	"reads" jsonb NOT NULL,
	"source" text NOT NULL,
	"supersedes" uuid,
	"reason" text NOT NULL,
	"by" uuid NOT NULL,
	"taken_at" timestamp (3) with time zone NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "readings_seq" UNIQUE("check_id","seq")
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"sid" text PRIMARY KEY NOT NULL,
	"sess" jsonb NOT NULL,
	"expire" timestamp (6) NOT NULL
);
--> statement-breakpoint
CREATE TABLE "settings" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "signatures" (
	"id" uuid PRIMARY KEY NOT NULL,
	"check_id" uuid NOT NULL,
	"role" text NOT NULL,
	"by" uuid NOT NULL,
	"name" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"statement" text NOT NULL,
	"digest" text NOT NULL,
	CONSTRAINT "signatures_once" UNIQUE("check_id","role")
);
--> statement-breakpoint
CREATE TABLE "versions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"parent_id" uuid,
	"revision" integer NOT NULL,
	"entries" jsonb NOT NULL,
	"author_id" uuid NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	"reason" text NOT NULL,
	"sealed_at" timestamp (3) with time zone,
	CONSTRAINT "versions_number" UNIQUE("loop_id","number")
);
--> statement-breakpoint
ALTER TABLE "checks" ADD CONSTRAINT "checks_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "checks" ADD CONSTRAINT "checks_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "checks" ADD CONSTRAINT "checks_started_by_people_id_fk" FOREIGN KEY ("started_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "gates" ADD CONSTRAINT "gates_check_id_checks_id_fk" FOREIGN KEY ("check_id") REFERENCES "public"."checks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "gates" ADD CONSTRAINT "gates_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loops" ADD CONSTRAINT "loops_head_version_id_versions_id_fk" FOREIGN KEY ("head_version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_check_id_checks_id_fk" FOREIGN KEY ("check_id") REFERENCES "public"."checks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signatures" ADD CONSTRAINT "signatures_check_id_checks_id_fk" FOREIGN KEY ("check_id") REFERENCES "public"."checks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signatures" ADD CONSTRAINT "signatures_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_author_id_people_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "audit_loop" ON "audit" USING btree ("loop_id","id");--> statement-breakpoint
CREATE INDEX "checks_loop" ON "checks" USING btree ("loop_id","started_at");--> statement-breakpoint
CREATE INDEX "loops_area_tag" ON "loops" USING btree ("area","tag");--> statement-breakpoint
CREATE INDEX "loops_kind_tag" ON "loops" USING btree ("kind","tag");--> statement-breakpoint
CREATE INDEX "loops_state_tag" ON "loops" USING btree ("state","tag");--> statement-breakpoint
CREATE INDEX "loops_due" ON "loops" USING btree ("next_due");--> statement-breakpoint
CREATE INDEX "loops_search" ON "loops" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "sessions_expire" ON "sessions" USING btree ("expire");