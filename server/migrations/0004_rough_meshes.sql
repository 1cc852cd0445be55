CREATE TABLE "mesh_rough" (
	"sha256" text PRIMARY KEY NOT NULL,
	"bytes" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "mesh_rough" ADD CONSTRAINT "mesh_rough_sha256_mesh_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."mesh"("sha256") ON DELETE cascade ON UPDATE no action;