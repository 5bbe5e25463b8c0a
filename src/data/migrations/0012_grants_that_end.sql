ALTER TABLE "course_staff" ADD COLUMN "role" text DEFAULT 'instructor' NOT NULL;--> statement-breakpoint
ALTER TABLE "course_staff" ADD COLUMN "until" timestamp with time zone;