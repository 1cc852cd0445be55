CREATE TABLE "cling_change" (
	"pair" text PRIMARY KEY NOT NULL,
	"cling" double precision NOT NULL,
	"source" text NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "family_change" (
	"name" text PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "step_photo" (
	"id" uuid PRIMARY KEY NOT NULL,
	"trial_id" uuid NOT NULL,
	"step" text NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"jpeg" "bytea" NOT NULL,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "id" uuid DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "lot" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "empty_g" double precision;--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "price_per_kg" double precision;--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "colour" text;--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "opened_on" date;--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "dried_on" date;--> statement-breakpoint
ALTER TABLE "spool" ADD COLUMN "damp" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "offset_mm" jsonb DEFAULT '[18,0,0]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "layer_mm" jsonb;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "fan_side" text DEFAULT 'around' NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "extrusion" text DEFAULT 'relative' NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "start_gcode" text DEFAULT 'G28
M140 S{bed}
M104 T{tool} S{nozzle}
M190 S{bed}
M109 T{tool} S{nozzle}
T{tool}' NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "swap_gcode" text DEFAULT 'M109 T{tool} S{nozzle}
T{tool}' NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "end_gcode" text DEFAULT 'M104 T{tool} S0
M104 T{other} S0
M140 S0
G28 X0
M84' NOT NULL;--> statement-breakpoint
ALTER TABLE "printer" ADD COLUMN "loaded" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "step_reading" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "trial" ADD COLUMN "part_lot" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "trial" ADD COLUMN "support_lot" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "trial" ADD COLUMN "offset_mm" jsonb;--> statement-breakpoint
ALTER TABLE "trial" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "trial" ADD COLUMN "left_out" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "step_photo" ADD CONSTRAINT "step_photo_trial_id_trial_id_fk" FOREIGN KEY ("trial_id") REFERENCES "public"."trial"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "step_photo_trial" ON "step_photo" USING btree ("trial_id");--> statement-breakpoint
CREATE UNIQUE INDEX "spool_id" ON "spool" USING btree ("id");