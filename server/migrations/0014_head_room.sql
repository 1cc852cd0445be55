ALTER TABLE "printer" ADD COLUMN "wipe_mm" double precision DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "head_around_mm" double precision DEFAULT 45 NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "bar_above_mm" double precision DEFAULT 25 NOT NULL;