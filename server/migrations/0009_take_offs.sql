CREATE TABLE "take_off" (
	"id" uuid PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"name" text NOT NULL,
	"printed_on" date NOT NULL,
	"part_id" uuid NOT NULL,
	"plan_id" uuid,
	"damp" boolean DEFAULT false NOT NULL,
	"lessons_left_out" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"document" jsonb NOT NULL,
	"printed" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "take_off_note" (
	"take_off_id" uuid NOT NULL,
	"at" text NOT NULL,
	"release" integer,
	"finish" integer,
	"stayed" text,
	"specks" text,
	"damage" text,
	"damage_where" text DEFAULT '' NOT NULL,
	"left_out" boolean DEFAULT false NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"tool" text,
	"minutes" double precision,
	"part_g" double precision,
	"waste_g" double precision,
	"revision" integer DEFAULT 1 NOT NULL,
	"marks" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"read_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "take_off_note_take_off_id_at_pk" PRIMARY KEY("take_off_id","at"),
	CONSTRAINT "take_off_note_grades" CHECK (coalesce("take_off_note"."release", 1) between 1 and 5 and coalesce("take_off_note"."finish", 1) between 1 and 5)
);
--> statement-breakpoint
CREATE TABLE "take_off_photo" (
	"id" uuid PRIMARY KEY NOT NULL,
	"take_off_id" uuid NOT NULL,
	"at" text NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"sha256" text NOT NULL,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "take_off" ADD CONSTRAINT "take_off_part_id_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "take_off" ADD CONSTRAINT "take_off_plan_id_plan_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plan"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "take_off_note" ADD CONSTRAINT "take_off_note_take_off_id_take_off_id_fk" FOREIGN KEY ("take_off_id") REFERENCES "public"."take_off"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "take_off_photo" ADD CONSTRAINT "take_off_photo_take_off_id_take_off_id_fk" FOREIGN KEY ("take_off_id") REFERENCES "public"."take_off"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "take_off_photo" ADD CONSTRAINT "take_off_photo_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "take_off_part" ON "take_off" USING btree ("part_id");--> statement-breakpoint
CREATE INDEX "take_off_plan" ON "take_off" USING btree ("plan_id");--> statement-breakpoint
CREATE INDEX "take_off_photo_take_off" ON "take_off_photo" USING btree ("take_off_id");