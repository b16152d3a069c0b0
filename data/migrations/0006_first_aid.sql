CREATE TABLE "transcript_versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"media_id" uuid NOT NULL,
	"source" text NOT NULL,
	"language" text,
	"words" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "next_from" double precision;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "next_to" double precision;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "next_parameters" text;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "removed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "reels" ADD COLUMN "last_edit" uuid;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "rank" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "transcripts" ADD COLUMN "language" text;--> statement-breakpoint
ALTER TABLE "transcript_versions" ADD CONSTRAINT "transcript_versions_media_id_media_id_fk" FOREIGN KEY ("media_id") REFERENCES "public"."media"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "transcript_versions_media" ON "transcript_versions" USING btree ("media_id");--> statement-breakpoint
-- Of tasks that were queued twice the first goes on.
UPDATE "tasks" SET "state" = 'cancelled', "ended_at" = now() WHERE "state" IN ('queued', 'running') AND EXISTS (SELECT 1 FROM "tasks" "earlier" WHERE "earlier"."kind" = "tasks"."kind" AND "earlier"."subject" = "tasks"."subject" AND "earlier"."state" IN ('queued', 'running') AND ("earlier"."created_at", "earlier"."id") < ("tasks"."created_at", "tasks"."id"));--> statement-breakpoint
CREATE UNIQUE INDEX "tasks_active" ON "tasks" USING btree ("kind","subject") WHERE state in ('queued', 'running');