CREATE TABLE "kept_last" (
	"about" text PRIMARY KEY NOT NULL,
	"key" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "kept_last" ADD CONSTRAINT "kept_last_key_kept_answer_key_fk" FOREIGN KEY ("key") REFERENCES "public"."kept_answer"("key") ON DELETE cascade ON UPDATE no action;