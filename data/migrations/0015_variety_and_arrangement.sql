ALTER TABLE "picks" ADD COLUMN "variety" double precision DEFAULT 50 NOT NULL;--> statement-breakpoint
ALTER TABLE "picks" ADD COLUMN "arrangement" text DEFAULT 'story' NOT NULL;--> statement-breakpoint
ALTER TABLE "recipes" ADD COLUMN "variety" double precision DEFAULT 50 NOT NULL;