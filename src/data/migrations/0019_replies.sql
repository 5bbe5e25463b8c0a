CREATE TABLE "replies" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "replies_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"recipient_id" integer,
	"body" text NOT NULL,
	"via" text NOT NULL,
	"other_address" text,
	"automatic" boolean DEFAULT false NOT NULL,
	"dropped" integer DEFAULT 0 NOT NULL,
	"key" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"read_at" timestamp with time zone,
	"read_by" text
);
--> statement-breakpoint
ALTER TABLE "persons" ADD COLUMN "mail_fault" text;--> statement-breakpoint
ALTER TABLE "persons" ADD COLUMN "mail_fault_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_recipient_id_recipients_id_fk" FOREIGN KEY ("recipient_id") REFERENCES "public"."recipients"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_read_by_user_id_fk" FOREIGN KEY ("read_by") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "replies_once" ON "replies" USING btree ("enrolment_id","key");--> statement-breakpoint
CREATE INDEX "replies_course" ON "replies" USING btree ("course_id","at");