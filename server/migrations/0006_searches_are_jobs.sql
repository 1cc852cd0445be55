DROP SCHEMA IF EXISTS "pgboss" CASCADE;--> statement-breakpoint
-- Of several working searches of a part only the newest goes on.
INSERT INTO "job" ("id", "kind", "part_id", "state", "round", "input", "message", "created_at")
SELECT s."id", 'poses', s."part_id",
	CASE WHEN s."state" = 'working' AND s."id" <> (
		SELECT n."id" FROM "pose_search" n WHERE n."part_id" = s."part_id" AND n."state" = 'working' ORDER BY n."created_at" DESC, n."id" LIMIT 1
	) THEN 'stopped' ELSE s."state" END,
	s."round", s."input", s."message", s."created_at"
FROM "pose_search" s;--> statement-breakpoint
-- Worker 0 does not exist: what was left undone is put back in line at once.
INSERT INTO "job_batch" ("job_id", "round", "position", "work", "results", "worker")
SELECT "search_id", "round", "position", "turns", "results", CASE WHEN "results" IS NULL THEN 0 END FROM "pose_batch";--> statement-breakpoint
DROP TABLE "pose_batch" CASCADE;--> statement-breakpoint
DROP TABLE "pose_search" CASCADE;
