ALTER TABLE "projects" ADD COLUMN "beginning" jsonb;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "changed_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "put_away_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "removed_at" timestamp with time zone;--> statement-breakpoint
UPDATE "projects" SET "changed_at" = "created_at";
