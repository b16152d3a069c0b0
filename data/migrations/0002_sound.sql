ALTER TABLE "renders" ADD COLUMN "integrated_lufs" real;--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "true_peak_db" real;