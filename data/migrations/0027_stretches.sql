CREATE TABLE "render_stretches" (
	"render_id" uuid NOT NULL,
	"name" text NOT NULL,
	"holder" uuid NOT NULL,
	"made" boolean DEFAULT false NOT NULL,
	"heartbeat_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "render_stretches_render_id_name_pk" PRIMARY KEY("render_id","name")
);
--> statement-breakpoint
ALTER TABLE "render_stretches" ADD CONSTRAINT "render_stretches_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE cascade ON UPDATE no action;