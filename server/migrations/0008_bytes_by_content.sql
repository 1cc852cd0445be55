-- Files, known by their content before, move to where all bytes stand.
INSERT INTO "blob" ("sha256", "byte_length") SELECT "sha256", "byte_length" FROM "mesh" ON CONFLICT DO NOTHING;--> statement-breakpoint
INSERT INTO "blob_chunk" ("sha256", "position", "bytes") SELECT "sha256", "position", "bytes" FROM "mesh_chunk" ON CONFLICT DO NOTHING;--> statement-breakpoint
DROP TABLE "mesh_chunk" CASCADE;--> statement-breakpoint
-- Rough copies are made anew, in another form, when they are first asked for.
DROP TABLE "mesh_rough" CASCADE;--> statement-breakpoint
ALTER TABLE "mesh" ADD CONSTRAINT "mesh_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mesh" DROP COLUMN "byte_length";--> statement-breakpoint
INSERT INTO "blob" ("sha256", "byte_length") SELECT DISTINCT encode(sha256("jpeg"), 'hex'), length("jpeg") FROM "step_photo" ON CONFLICT DO NOTHING;--> statement-breakpoint
INSERT INTO "blob_chunk" ("sha256", "position", "bytes")
SELECT DISTINCT encode(sha256(p."jpeg"), 'hex'), i, substring(p."jpeg" FROM i * 1048576 + 1 FOR 1048576)
FROM "step_photo" p, generate_series(0, (length(p."jpeg") - 1) / 1048576) i ON CONFLICT DO NOTHING;--> statement-breakpoint
UPDATE "step_photo" SET "sha256" = encode(sha256("jpeg"), 'hex');--> statement-breakpoint
ALTER TABLE "step_photo" ALTER COLUMN "sha256" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "step_photo" DROP COLUMN "jpeg";
