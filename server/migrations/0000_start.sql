CREATE TABLE "filament" (
	"id" uuid PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"name" text NOT NULL,
	"family" text NOT NULL,
	"colour" text NOT NULL,
	"density_g_cm3" double precision NOT NULL,
	"diameter_mm" double precision NOT NULL,
	"price_per_kg" double precision NOT NULL,
	"nozzle_c" double precision NOT NULL,
	"bed_c" double precision NOT NULL,
	CONSTRAINT "filament_density_range" CHECK ("filament"."density_g_cm3" >= 0.3 and "filament"."density_g_cm3" <= 5)
);
--> statement-breakpoint
CREATE TABLE "spool" (
	"filament_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"label" text NOT NULL,
	"grams_left" double precision NOT NULL,
	CONSTRAINT "spool_filament_id_position_pk" PRIMARY KEY("filament_id","position"),
	CONSTRAINT "spool_grams_range" CHECK ("spool"."grams_left" >= 0 and "spool"."grams_left" <= 50000)
);
--> statement-breakpoint
CREATE TABLE "mesh" (
	"sha256" text PRIMARY KEY NOT NULL,
	"byte_length" bigint NOT NULL,
	"facts" jsonb NOT NULL,
	"notes" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mesh_chunk" (
	"sha256" text NOT NULL,
	"position" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "mesh_chunk_sha256_position_pk" PRIMARY KEY("sha256","position")
);
--> statement-breakpoint
CREATE TABLE "part" (
	"id" uuid PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"name" text NOT NULL,
	"file_name" text NOT NULL,
	"mesh_sha256" text NOT NULL,
	"pose" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plan" (
	"id" uuid PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"name" text NOT NULL,
	"part_id" uuid NOT NULL,
	"document" jsonb NOT NULL,
	"figures" jsonb
);
--> statement-breakpoint
CREATE TABLE "printer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"name" text NOT NULL,
	"feed" text NOT NULL,
	"loads" integer NOT NULL,
	"nozzle_mm" double precision NOT NULL,
	"bed_width_mm" double precision NOT NULL,
	"bed_depth_mm" double precision NOT NULL,
	"height_mm" double precision NOT NULL,
	"wall_mm_s" double precision NOT NULL,
	"fill_mm_s" double precision NOT NULL,
	"stand_mm_s" double precision NOT NULL,
	"interface_mm_s" double precision NOT NULL,
	"first_layer_mm_s" double precision NOT NULL,
	"travel_mm_s" double precision NOT NULL,
	"accel_mm_s2" double precision NOT NULL,
	"corner_mm_s" double precision NOT NULL,
	"retract_s" double precision NOT NULL,
	"swap_s" double precision NOT NULL,
	"min_layer_s" double precision NOT NULL,
	"purge_mm3_s" double precision NOT NULL,
	CONSTRAINT "printer_nozzle_range" CHECK ("printer"."nozzle_mm" >= 0.1 and "printer"."nozzle_mm" <= 2),
	CONSTRAINT "printer_loads_range" CHECK ("printer"."loads" between 2 and 16)
);
--> statement-breakpoint
CREATE TABLE "step_reading" (
	"trial_id" uuid NOT NULL,
	"step" text NOT NULL,
	"grade" integer,
	"release" integer,
	"finish" integer,
	"force_n" double precision,
	"left_out" boolean DEFAULT false NOT NULL,
	"read_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "step_reading_trial_id_step_pk" PRIMARY KEY("trial_id","step"),
	CONSTRAINT "step_reading_grades" CHECK (coalesce("step_reading"."grade", 1) between 1 and 5 and coalesce("step_reading"."release", 1) between 1 and 5 and coalesce("step_reading"."finish", 1) between 1 and 5),
	CONSTRAINT "step_reading_force" CHECK ("step_reading"."force_n" is null or ("step_reading"."force_n" >= 0 and "step_reading"."force_n" <= 5000))
);
--> statement-breakpoint
CREATE TABLE "trial" (
	"id" uuid PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"name" text NOT NULL,
	"coupon" jsonb NOT NULL,
	"printer_id" uuid NOT NULL,
	"part_filament_id" uuid NOT NULL,
	"support_filament_id" uuid NOT NULL,
	"nozzle_mm" double precision NOT NULL,
	"layer_height_mm" double precision NOT NULL,
	"line_width_mm" double precision NOT NULL,
	"speed_mm_s" double precision NOT NULL,
	"fan_percent" double precision NOT NULL,
	"damp" boolean NOT NULL,
	"tile_area_mm2" double precision,
	"printed_on" date NOT NULL,
	CONSTRAINT "trial_layer_range" CHECK ("trial"."layer_height_mm" > 0 and "trial"."layer_height_mm" <= 2)
);
--> statement-breakpoint
ALTER TABLE "spool" ADD CONSTRAINT "spool_filament_id_filament_id_fk" FOREIGN KEY ("filament_id") REFERENCES "public"."filament"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mesh_chunk" ADD CONSTRAINT "mesh_chunk_sha256_mesh_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."mesh"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "part" ADD CONSTRAINT "part_mesh_sha256_mesh_sha256_fk" FOREIGN KEY ("mesh_sha256") REFERENCES "public"."mesh"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan" ADD CONSTRAINT "plan_part_id_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_reading" ADD CONSTRAINT "step_reading_trial_id_trial_id_fk" FOREIGN KEY ("trial_id") REFERENCES "public"."trial"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_printer_id_printer_id_fk" FOREIGN KEY ("printer_id") REFERENCES "public"."printer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_part_filament_id_filament_id_fk" FOREIGN KEY ("part_filament_id") REFERENCES "public"."filament"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_support_filament_id_filament_id_fk" FOREIGN KEY ("support_filament_id") REFERENCES "public"."filament"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "filament_name" ON "filament" USING btree ("name") WHERE "filament"."deleted_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "printer_name" ON "printer" USING btree ("name") WHERE "printer"."deleted_at" is null;