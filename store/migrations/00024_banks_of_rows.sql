-- +goose Up
-- Rows of blueprints name their banks by id: a bank's name may change.
UPDATE blueprint_row SET filter = json_set(filter, '$.banks', json((
    SELECT json_group_array(CAST(b.id AS TEXT)) FROM json_each(filter, '$.banks') n JOIN bank b ON b.name = n.value)))
WHERE json_extract(filter, '$.banks') IS NOT NULL;

UPDATE kept_blueprint SET rows = (
    SELECT json_group_array(CASE WHEN json_extract(json_extract(row.value, '$.Filter'), '$.banks') IS NULL THEN json(row.value)
        ELSE json_set(row.value, '$.Filter', json_set(json_extract(row.value, '$.Filter'), '$.banks', json((
            SELECT json_group_array(CAST(b.id AS TEXT))
            FROM json_each(json_extract(row.value, '$.Filter'), '$.banks') n JOIN bank b ON b.name = n.value))) || '') END) -- a text, as it was
    FROM json_each(kept_blueprint.rows) row)
WHERE rows LIKE '%banks%';
