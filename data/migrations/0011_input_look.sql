ALTER TABLE "bins" ADD COLUMN "input_look" text;--> statement-breakpoint
ALTER TABLE "colour_tables" ADD COLUMN "hash" text;