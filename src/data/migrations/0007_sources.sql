CREATE TABLE "source_ids" (
	"course_id" integer NOT NULL,
	"kind" text NOT NULL,
	"source_id" text NOT NULL,
	"section_id" integer,
	"category_id" integer,
	CONSTRAINT "source_ids_course_id_kind_source_id_pk" PRIMARY KEY("course_id","kind","source_id")
);
--> statement-breakpoint
ALTER TABLE "source_ids" ADD CONSTRAINT "source_ids_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source_ids" ADD CONSTRAINT "source_ids_section_id_sections_id_fk" FOREIGN KEY ("section_id") REFERENCES "public"."sections"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source_ids" ADD CONSTRAINT "source_ids_category_id_categories_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."categories"("id") ON DELETE cascade ON UPDATE no action;