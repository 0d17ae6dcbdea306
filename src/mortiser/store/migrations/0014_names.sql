-- What holds a pace is called so.
ALTER TABLE piece RENAME COLUMN grouping TO pace;
UPDATE edit_change SET
    before = json_remove(json_set(before, '$.pace', json_extract(before, '$.grouping')), '$.grouping'),
    after = json_remove(json_set(after, '$.pace', json_extract(after, '$.grouping')), '$.grouping')
    WHERE table_name = 'piece';
UPDATE job SET kind = 'thumbnails' WHERE kind = 'glimpses';
