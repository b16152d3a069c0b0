CREATE TABLE "continuations" (
	"before" text NOT NULL,
	"after" text NOT NULL,
	"unbroken" boolean NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "continuations_before_after_pk" PRIMARY KEY("before","after")
);
--> statement-breakpoint
CREATE TABLE "wholes" (
	"part" text NOT NULL,
	"whole" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "wholes_part_whole_pk" PRIMARY KEY("part","whole")
);
