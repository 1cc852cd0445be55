CREATE TABLE "pose_batch" (
	"search_id" uuid NOT NULL,
	"round" integer NOT NULL,
	"position" integer NOT NULL,
	"turns" jsonb NOT NULL,
	"results" jsonb,
	CONSTRAINT "pose_batch_search_id_round_position_pk" PRIMARY KEY("search_id","round","position")
);
--> statement-breakpoint
CREATE TABLE "pose_search" (
	"id" uuid PRIMARY KEY NOT NULL,
	"part_id" uuid NOT NULL,
	"state" text NOT NULL,
	"round" integer DEFAULT 0 NOT NULL,
	"input" jsonb NOT NULL,
	"message" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "mesh" ADD COLUMN "bodies" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part" ADD COLUMN "tags" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part" ADD COLUMN "zones" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part" ADD COLUMN "bodies" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part" ADD COLUMN "older_id" uuid;--> statement-breakpoint
ALTER TABLE "pose_batch" ADD CONSTRAINT "pose_batch_search_id_pose_search_id_fk" FOREIGN KEY ("search_id") REFERENCES "public"."pose_search"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pose_search" ADD CONSTRAINT "pose_search_part_id_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."part"("id") ON DELETE no action ON UPDATE no action;