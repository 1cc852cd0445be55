CREATE TABLE "job" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"part_id" uuid NOT NULL,
	"state" text NOT NULL,
	"round" integer DEFAULT 0 NOT NULL,
	"input" jsonb NOT NULL,
	"message" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "job_batch" (
	"job_id" uuid NOT NULL,
	"round" integer NOT NULL,
	"position" integer NOT NULL,
	"work" jsonb NOT NULL,
	"results" jsonb,
	"worker" integer,
	"attempts" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "job_batch_job_id_round_position_pk" PRIMARY KEY("job_id","round","position")
);
--> statement-breakpoint
ALTER TABLE "step_reading" ADD COLUMN "revision" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "step_reading" ADD COLUMN "marks" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_part_id_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."part"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "job_batch" ADD CONSTRAINT "job_batch_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "job_part" ON "job" USING btree ("part_id","kind","created_at");--> statement-breakpoint
CREATE UNIQUE INDEX "job_working" ON "job" USING btree ("part_id","kind") WHERE "job"."state" = 'working';