CREATE TABLE "device" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"token_sha256" text NOT NULL,
	"let_in_at" timestamp with time zone DEFAULT now() NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "device_token_sha256_unique" UNIQUE("token_sha256")
);
