CREATE TABLE "viewing_comments" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"viewing_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"answers" uuid,
	"seconds" double precision NOT NULL,
	"author" text NOT NULL,
	"text" text NOT NULL,
	"from_editor" boolean DEFAULT false NOT NULL,
	"key" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"done_at" timestamp with time zone,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "viewing_versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"viewing_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"revision" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"render_id" uuid,
	"approvals" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "viewings" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"reel_id" uuid NOT NULL,
	"token" text NOT NULL,
	"password_hash" text,
	"ends_at" timestamp with time zone,
	"may_download" boolean DEFAULT false NOT NULL,
	"closed_at" timestamp with time zone,
	"wrong_guesses" integer DEFAULT 0 NOT NULL,
	"guessed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "viewings_reel_id_unique" UNIQUE("reel_id"),
	CONSTRAINT "viewings_token_unique" UNIQUE("token")
);
--> statement-breakpoint
ALTER TABLE "viewing_comments" ADD CONSTRAINT "viewing_comments_viewing_id_viewings_id_fk" FOREIGN KEY ("viewing_id") REFERENCES "public"."viewings"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "viewing_comments" ADD CONSTRAINT "viewing_comments_version_id_viewing_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."viewing_versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "viewing_versions" ADD CONSTRAINT "viewing_versions_viewing_id_viewings_id_fk" FOREIGN KEY ("viewing_id") REFERENCES "public"."viewings"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "viewing_versions" ADD CONSTRAINT "viewing_versions_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "viewings" ADD CONSTRAINT "viewings_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "viewings" ADD CONSTRAINT "viewings_reel_id_reels_id_fk" FOREIGN KEY ("reel_id") REFERENCES "public"."reels"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "viewing_comments_viewing" ON "viewing_comments" USING btree ("viewing_id");--> statement-breakpoint
CREATE UNIQUE INDEX "viewing_versions_number" ON "viewing_versions" USING btree ("viewing_id","number");