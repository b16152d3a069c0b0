CREATE TABLE "person_numbers" (
	"project_id" uuid NOT NULL,
	"track" text NOT NULL,
	"number" integer NOT NULL,
	CONSTRAINT "person_numbers_project_id_track_pk" PRIMARY KEY("project_id","track")
);
--> statement-breakpoint
ALTER TABLE "person_numbers" ADD CONSTRAINT "person_numbers_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;