CREATE TABLE "settled" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"until" timestamp with time zone NOT NULL,
	"counts" jsonb NOT NULL,
	"ends" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "settled" ADD CONSTRAINT "settled_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
-- Typical dwells are over whole seconds now: the next start derives them anew.
DELETE FROM "student_dwells";
