CREATE TABLE "workshop" (
	"name" text PRIMARY KEY NOT NULL,
	"chosen" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
