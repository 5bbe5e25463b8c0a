CREATE TABLE "templates" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "templates_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"shared" boolean NOT NULL,
	"name" text NOT NULL,
	"about" text NOT NULL,
	"subject" text NOT NULL,
	"doc" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "doc" jsonb;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "about" text DEFAULT 'other' NOT NULL;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "activity_id" integer;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "goes_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "gone_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "recipients" ADD COLUMN "doc" jsonb;--> statement-breakpoint
ALTER TABLE "persons" ADD COLUMN "mail_copies" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "templates_course" ON "templates" USING btree ("course_id");--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
UPDATE "messages" SET "gone_at" = "created_at";