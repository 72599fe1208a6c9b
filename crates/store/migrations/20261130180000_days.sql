-- The calendar reads its days along one index, without a look at the visits themselves; what is read of them stands in it.
ALTER TABLE visits ADD INDEX IF NOT EXISTS visits_days (on_day, id, order_id, kind, number, moves, settled);
ALTER TABLE visits DROP INDEX IF EXISTS visits_day;
