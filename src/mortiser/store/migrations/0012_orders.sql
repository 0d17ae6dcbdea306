-- What was ordered is kept with the delivery until it is made, and every delivered file is a row.
ALTER TABLE delivery ADD COLUMN ordered TEXT NOT NULL DEFAULT '';
CREATE TABLE delivered_file (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    delivery_id INTEGER NOT NULL REFERENCES delivery (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    size INTEGER NOT NULL,
    UNIQUE (delivery_id, name)
) STRICT;
INSERT INTO delivered_file (delivery_id, kind, name, size)
    SELECT delivery.id, json_extract(file.value, '$.kind'), json_extract(file.value, '$.name'),
        json_extract(file.value, '$.size')
    FROM delivery, json_each(delivery.files) AS file;
ALTER TABLE delivery DROP COLUMN files;
