CREATE TABLE "attachments" (
	"course_id" integer NOT NULL,
	"sha2" text NOT NULL,
	"content" "bytea" NOT NULL,
	CONSTRAINT "attachments_course_id_sha2_pk" PRIMARY KEY("course_id","sha2")
);
--> statement-breakpoint
CREATE TABLE "documents" (
	"course_id" integer NOT NULL,
	"kind" text NOT NULL,
	"activity" text DEFAULT '' NOT NULL,
	"agent" text DEFAULT '' NOT NULL,
	"registration" text DEFAULT '' NOT NULL,
	"id" text NOT NULL,
	"key" text NOT NULL,
	"content_type" text NOT NULL,
	"content" "bytea" NOT NULL,
	"updated" timestamp with time zone NOT NULL,
	CONSTRAINT "documents_course_id_key_pk" PRIMARY KEY("course_id","key")
);
--> statement-breakpoint
CREATE TABLE "statement_attachments" (
	"course_id" integer NOT NULL,
	"statement_id" text NOT NULL,
	"sha2" text NOT NULL,
	CONSTRAINT "statement_attachments_course_id_statement_id_sha2_pk" PRIMARY KEY("course_id","statement_id","sha2")
);
--> statement-breakpoint
CREATE TABLE "proposals" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "proposals_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"person_id" integer,
	"unit_id" integer,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL,
	"settled_at" timestamp with time zone,
	"accepted" boolean
);
--> statement-breakpoint
ALTER TABLE "events" ADD COLUMN "of_statement" text;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "statement_attachments" ADD CONSTRAINT "statement_attachments_of" FOREIGN KEY ("course_id","statement_id") REFERENCES "public"."statements"("course_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_unit_id_units_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."units"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "statement_attachments_sha2" ON "statement_attachments" USING btree ("course_id","sha2");--> statement-breakpoint
CREATE INDEX "proposals_person" ON "proposals" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "proposals_unit" ON "proposals" USING btree ("unit_id");--> statement-breakpoint
CREATE INDEX "statements_activity" ON "statements" USING btree ("course_id","activity");