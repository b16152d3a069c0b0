ALTER TABLE "reel_revisions" ADD COLUMN "edit" uuid;--> statement-breakpoint
CREATE INDEX "reel_revisions_edit" ON "reel_revisions" USING btree ("reel_id","edit");