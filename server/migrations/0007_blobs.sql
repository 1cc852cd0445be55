CREATE TABLE "blob" (
	"sha256" text PRIMARY KEY NOT NULL,
	"byte_length" bigint NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "blob_chunk" (
	"sha256" text NOT NULL,
	"position" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "blob_chunk_sha256_position_pk" PRIMARY KEY("sha256","position")
);
--> statement-breakpoint
ALTER TABLE "mesh" ADD COLUMN "packed_sha256" text;--> statement-breakpoint
ALTER TABLE "mesh" ADD COLUMN "rough_sha256" text;--> statement-breakpoint
ALTER TABLE "step_photo" ADD COLUMN "sha256" text;--> statement-breakpoint
ALTER TABLE "blob_chunk" ADD CONSTRAINT "blob_chunk_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mesh" ADD CONSTRAINT "mesh_packed_sha256_blob_sha256_fk" FOREIGN KEY ("packed_sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mesh" ADD CONSTRAINT "mesh_rough_sha256_blob_sha256_fk" FOREIGN KEY ("rough_sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_photo" ADD CONSTRAINT "step_photo_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "part_mesh" ON "part" USING btree ("mesh_sha256");