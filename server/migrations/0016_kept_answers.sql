CREATE TABLE "kept_answer" (
	"key" text PRIMARY KEY NOT NULL,
	"answer" text NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "kept_answer_by_age" ON "kept_answer" USING btree ("asked_at");