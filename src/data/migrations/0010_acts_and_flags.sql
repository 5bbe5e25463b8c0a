CREATE TABLE "acts" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "acts_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"kind" text NOT NULL,
	"on_day" date NOT NULL,
	"follow_up_on" date,
	"reason" text,
	"answers" jsonb NOT NULL,
	"recipient_id" integer,
	"note_id" integer,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
DROP INDEX "flags_enrolment";--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "evaluations" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_recipient_id_recipients_id_fk" FOREIGN KEY ("recipient_id") REFERENCES "public"."recipients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_note_id_notes_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."notes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "acts_course" ON "acts" USING btree ("course_id","enrolment_id");--> statement-breakpoint
CREATE INDEX "acts_recipient" ON "acts" USING btree ("recipient_id");--> statement-breakpoint
CREATE INDEX "acts_note" ON "acts" USING btree ("note_id");--> statement-breakpoint
-- There is one of a kind a day; should there ever have been two, the later holds.
DELETE FROM "flags" a USING "flags" b WHERE a.id < b.id AND a.enrolment_id = b.enrolment_id AND a.kind = b.kind AND a.opened_on = b.opened_on;--> statement-breakpoint
CREATE UNIQUE INDEX "flags_of_student" ON "flags" USING btree ("enrolment_id","kind","opened_on");