CREATE TABLE "colour_tables" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"size" integer NOT NULL,
	"from" jsonb NOT NULL,
	"to" jsonb NOT NULL,
	"values" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "matches" (
	"reference" text NOT NULL,
	"other" text NOT NULL,
	"offset_seconds" double precision NOT NULL,
	"drift_ppm" real NOT NULL,
	"confidence" real NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "matches_reference_other_pk" PRIMARY KEY("reference","other")
);
--> statement-breakpoint
CREATE TABLE "reel_versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"reel_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "format" text DEFAULT 'mp4' NOT NULL;--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "quality" text DEFAULT 'good' NOT NULL;--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "range" jsonb;--> statement-breakpoint
ALTER TABLE "colour_tables" ADD CONSTRAINT "colour_tables_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reel_versions" ADD CONSTRAINT "reel_versions_reel_id_reels_id_fk" FOREIGN KEY ("reel_id") REFERENCES "public"."reels"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "colour_tables_project" ON "colour_tables" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "reel_versions_reel" ON "reel_versions" USING btree ("reel_id");