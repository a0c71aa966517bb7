CREATE TABLE "guesses" (
	"key" text PRIMARY KEY NOT NULL,
	"wrong" integer NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "seal_keys" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"public_key" text NOT NULL,
	"own" boolean NOT NULL,
	"trusted" boolean NOT NULL,
	"since" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "seals" (
	"signature_id" uuid PRIMARY KEY NOT NULL,
	"own" boolean NOT NULL,
	"body" jsonb NOT NULL,
	"seq" integer NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "audit" ADD COLUMN "chain" integer;--> statement-breakpoint
ALTER TABLE "audit" ADD COLUMN "previous" text;--> statement-breakpoint
ALTER TABLE "audit" ADD COLUMN "hash" text;--> statement-breakpoint
ALTER TABLE "checks" ADD COLUMN "imported" jsonb;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "disabled" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "stamp" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "reset_hash" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "reset_until" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "sampled_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "seals" ADD CONSTRAINT "seals_signature_id_signatures_id_fk" FOREIGN KEY ("signature_id") REFERENCES "public"."signatures"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "seals_chain" ON "seals" USING btree ("seq") WHERE own;--> statement-breakpoint
CREATE INDEX "seals_hash" ON "seals" USING btree ("hash");--> statement-breakpoint
CREATE UNIQUE INDEX "audit_chain" ON "audit" USING btree ("chain");--> statement-breakpoint
CREATE INDEX "signatures_digest" ON "signatures" USING btree ("digest");