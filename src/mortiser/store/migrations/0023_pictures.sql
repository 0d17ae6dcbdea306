-- Pictures of the user's own: what lies in the folder of pictures, by what is in it.
CREATE TABLE picture (
  digest TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  added TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP
) STRICT;
