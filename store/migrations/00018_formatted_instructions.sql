-- +goose Up
-- Instructions are formatted text now. Those typed as plain paragraphs become paragraphs.
UPDATE assessment
SET instructions = '<p>' || REPLACE(REPLACE(REPLACE(REPLACE(instructions, '&', '&amp;'), '<', '&lt;'), '>', '&gt;'), char(10) || char(10), '</p><p>') || '</p>'
WHERE instructions <> '' AND instructions NOT LIKE '<%';
