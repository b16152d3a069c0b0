CREATE TABLE "boards" (
	"project_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"document" jsonb NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "boards_project_id_kind_pk" PRIMARY KEY("project_id","kind")
);
--> statement-breakpoint
CREATE TABLE "markers" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"media_id" uuid NOT NULL,
	"seconds" double precision NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"kind" text DEFAULT 'note' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "recipes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"mix" jsonb NOT NULL,
	"limits" jsonb NOT NULL,
	"piece" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "bins" ADD COLUMN "synced" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "default_in" double precision;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "default_out" double precision;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "sync_offset" double precision;--> statement-breakpoint
ALTER TABLE "picks" ADD COLUMN "learning" jsonb DEFAULT '{"on":true,"forgotten":[]}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "picks" ADD COLUMN "photo_seconds" double precision DEFAULT 4 NOT NULL;--> statement-breakpoint
ALTER TABLE "picks" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "reels" ADD COLUMN "role" text;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "size" real;--> statement-breakpoint
ALTER TABLE "boards" ADD CONSTRAINT "boards_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markers" ADD CONSTRAINT "markers_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markers" ADD CONSTRAINT "markers_media_id_media_id_fk" FOREIGN KEY ("media_id") REFERENCES "public"."media"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recipes" ADD CONSTRAINT "recipes_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "markers_project" ON "markers" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "recipes_project" ON "recipes" USING btree ("project_id");