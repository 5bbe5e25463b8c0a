CREATE TABLE "course_log" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "course_log_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"what" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "uploads" ALTER COLUMN "course_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "uploads" ALTER COLUMN "user_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "key_shown" text DEFAULT 'closed' NOT NULL;--> statement-breakpoint
ALTER TABLE "enrolments" ADD COLUMN "contact_hidden" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "replies" ADD COLUMN "unverified" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "replies" ADD COLUMN "upload_id" text;--> statement-breakpoint
ALTER TABLE "course_log" ADD CONSTRAINT "course_log_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_log" ADD CONSTRAINT "course_log_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "course_log_course" ON "course_log" USING btree ("course_id","at");--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_upload_id_uploads_id_fk" FOREIGN KEY ("upload_id") REFERENCES "public"."uploads"("id") ON DELETE set null ON UPDATE no action;