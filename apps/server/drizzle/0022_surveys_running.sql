CREATE TABLE "surveys_running" (
	"survey" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "surveys_running" ADD CONSTRAINT "surveys_running_survey_work_log_id_fk" FOREIGN KEY ("survey") REFERENCES "public"."work_log"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "surveys_running" ADD CONSTRAINT "surveys_running_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- What is under way; its rows are in the log, which is only added to.
GRANT SELECT, INSERT, DELETE ON surveys_running TO calm_loop_app;
