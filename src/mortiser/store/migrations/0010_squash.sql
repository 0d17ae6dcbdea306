-- One change a row and entry: as it was before the entry, and as it is after it.
CREATE INDEX edit_change_row ON edit_change (entry_id, table_name, row_id, id);
UPDATE edit_change SET after = (
    SELECT last.after FROM edit_change AS last
    WHERE last.entry_id = edit_change.entry_id AND last.table_name = edit_change.table_name
        AND last.row_id = edit_change.row_id
    ORDER BY last.id DESC LIMIT 1
);
DELETE FROM edit_change WHERE EXISTS (
    SELECT 1 FROM edit_change AS first
    WHERE first.entry_id = edit_change.entry_id AND first.table_name = edit_change.table_name
        AND first.row_id = edit_change.row_id AND first.id < edit_change.id
);
DELETE FROM edit_change WHERE before IS after;
DROP INDEX edit_change_row;
DROP INDEX edit_change_entry;
CREATE UNIQUE INDEX edit_change_row ON edit_change (entry_id, table_name, row_id);
