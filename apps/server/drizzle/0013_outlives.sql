ALTER TABLE "checks" ADD COLUMN "rule" smallint;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "kind_version" smallint;