ALTER TABLE "imports" ADD COLUMN "job_id" text;--> statement-breakpoint
CREATE INDEX "imports_job" ON "imports" USING btree ("job_id");