CREATE TABLE "attachment_notes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"attachment_id" uuid NOT NULL,
	"note" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "attachments" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"name" text NOT NULL,
	"media" text NOT NULL,
	"digest" text NOT NULL,
	"size" integer NOT NULL,
	"width" integer,
	"height" integer,
	"file" "bytea" NOT NULL,
	"small" "bytea",
	"note" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "attachment_notes" ADD CONSTRAINT "attachment_notes_attachment_id_attachments_id_fk" FOREIGN KEY ("attachment_id") REFERENCES "public"."attachments"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachment_notes" ADD CONSTRAINT "attachment_notes_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attachment_notes_of" ON "attachment_notes" USING btree ("attachment_id","at");--> statement-breakpoint
CREATE INDEX "attachments_loop" ON "attachments" USING btree ("loop_id");--> statement-breakpoint
GRANT SELECT, INSERT ON attachments, attachment_notes TO calm_loop_app;
