ALTER TABLE "traces" DROP CONSTRAINT "traces_hash_version_parameters_name_pk";--> statement-breakpoint
ALTER TABLE "traces" ADD COLUMN "family" text DEFAULT 'measured' NOT NULL;--> statement-breakpoint
-- Until now the family stood in the name.
UPDATE "traces" SET "family" = 'decided', "name" = substr("name", 9) WHERE "name" LIKE 'display.%';--> statement-breakpoint
UPDATE "traces" SET "family" = 'mouth', "name" = substr("name", 7) WHERE "name" LIKE 'mouth:%' AND "family" = 'measured';--> statement-breakpoint
UPDATE "traces" SET "family" = "name" WHERE "name" IN ('look', 'fine') AND "family" = 'measured';--> statement-breakpoint
ALTER TABLE "traces" ADD CONSTRAINT "traces_hash_version_parameters_family_name_pk" PRIMARY KEY("hash","version","parameters","family","name");
