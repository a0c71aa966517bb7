ALTER TABLE "signatures" DROP CONSTRAINT "signatures_once";--> statement-breakpoint
CREATE UNIQUE INDEX "signatures_once" ON "signatures" USING btree ("check_id","role") WHERE role <> 'accepted';