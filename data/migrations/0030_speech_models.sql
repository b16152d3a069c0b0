CREATE TABLE "speech_models" (
	"name" text PRIMARY KEY NOT NULL,
	"storage_key" text NOT NULL,
	"bytes" bigint NOT NULL,
	"facts" jsonb NOT NULL,
	"used_since" timestamp with time zone,
	"pace" double precision,
	"problem" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "recognitions" ADD COLUMN "language" text;