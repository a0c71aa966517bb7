ALTER TABLE "checks" ADD COLUMN "terms" jsonb;--> statement-breakpoint
ALTER TABLE "gear" ADD COLUMN "certificate" text;--> statement-breakpoint
ALTER TABLE "gear" ADD COLUMN "calibrated" date;--> statement-breakpoint
ALTER TABLE "gear" ADD COLUMN "ranges" jsonb;