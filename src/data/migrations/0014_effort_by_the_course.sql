-- Effort is held against the course's own relation of time and progress: the fixed limit goes.
UPDATE "courses" SET "indicators" = "indicators" #- '{effort,standingUnder}';
