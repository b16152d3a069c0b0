CREATE TABLE "speakers" (
	"media_id" uuid PRIMARY KEY NOT NULL,
	"turns" jsonb NOT NULL,
	"names" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "speakers" ADD CONSTRAINT "speakers_media_id_media_id_fk" FOREIGN KEY ("media_id") REFERENCES "public"."media"("id") ON DELETE cascade ON UPDATE no action;