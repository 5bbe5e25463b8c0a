CREATE TABLE "feed_files" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "feed_files_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"feed_id" integer NOT NULL,
	"upload_id" text,
	"name" text NOT NULL,
	"hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"counts" jsonb,
	"reasons" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "feeds" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "feeds_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"place" text NOT NULL,
	"days" text NOT NULL,
	"minute" integer NOT NULL,
	"state" text NOT NULL,
	"why" text,
	"missed_at" timestamp with time zone,
	"came_at" timestamp with time zone,
	"shape" jsonb,
	"mapping" jsonb,
	"marks" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "feed_files" ADD CONSTRAINT "feed_files_feed_id_feeds_id_fk" FOREIGN KEY ("feed_id") REFERENCES "public"."feeds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feed_files" ADD CONSTRAINT "feed_files_upload_id_uploads_id_fk" FOREIGN KEY ("upload_id") REFERENCES "public"."uploads"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "feed_files_feed" ON "feed_files" USING btree ("feed_id");--> statement-breakpoint
CREATE INDEX "feed_files_upload" ON "feed_files" USING btree ("upload_id");--> statement-breakpoint
CREATE INDEX "feeds_course" ON "feeds" USING btree ("course_id");