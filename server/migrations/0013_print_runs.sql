CREATE TABLE "print_run" (
	"id" uuid PRIMARY KEY NOT NULL,
	"take_off_id" uuid,
	"input" jsonb NOT NULL,
	"state" text NOT NULL,
	"message" text,
	"bytes" bigint NOT NULL,
	"progress" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "take_off" ADD COLUMN "simulated" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "trial" ADD COLUMN "simulated" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "print_run" ADD CONSTRAINT "print_run_take_off_id_take_off_id_fk" FOREIGN KEY ("take_off_id") REFERENCES "public"."take_off"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "print_run_take_off" ON "print_run" USING btree ("take_off_id","created_at");