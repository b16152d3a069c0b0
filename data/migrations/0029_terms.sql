ALTER TABLE "projects" ADD COLUMN "terms" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "recognitions" ADD COLUMN "revision" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "recognitions" ADD COLUMN "terms" jsonb DEFAULT '[]'::jsonb NOT NULL;