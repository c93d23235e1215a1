CREATE TABLE "jobs" (
	"kind" text NOT NULL,
	"subject" text NOT NULL,
	"claimed_by" text NOT NULL,
	"claimed_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "jobs_kind_subject_pk" PRIMARY KEY("kind","subject")
);
