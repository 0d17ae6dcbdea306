BEGIN TRANSACTION;
CREATE TABLE "clip" (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    strand_id INTEGER NOT NULL REFERENCES strand (id),
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us > start_us)
) STRICT;
INSERT INTO "clip" VALUES(1,1,0,1,2050000,6000000);
INSERT INTO "clip" VALUES(2,1,-1048576,1,0,1450000);
CREATE TABLE correction (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    heard TEXT NOT NULL COLLATE NOCASE,
    written TEXT NOT NULL
) STRICT;
CREATE TABLE "cue" (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    said_start_us INTEGER NOT NULL,
    said_end_us INTEGER NOT NULL,
    start_pinned INTEGER NOT NULL,
    end_pinned INTEGER NOT NULL,
    start_us INTEGER,
    end_us INTEGER CHECK (end_us > start_us)
) STRICT;
INSERT INTO "cue" VALUES(1,1,200000,4200000,0,0,200000,3600000);
CREATE TABLE declined_offer (
    heard TEXT NOT NULL COLLATE NOCASE,
    written TEXT NOT NULL,
    PRIMARY KEY (heard, written)
) STRICT;
CREATE TABLE "delivered_file" (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    delivery_id INTEGER NOT NULL REFERENCES "delivery" (id) ON DELETE CASCADE,
    job_id INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    part TEXT NOT NULL DEFAULT '',
    size INTEGER NOT NULL DEFAULT 0,
    UNIQUE (delivery_id, name)
) STRICT;
CREATE TABLE "delivery" (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    piece_id INTEGER REFERENCES piece (id) ON DELETE SET NULL,
    stem TEXT NOT NULL,
    revision INTEGER NOT NULL,
    created_us INTEGER NOT NULL,
    ordered TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE TABLE edit_change (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    entry_id INTEGER NOT NULL REFERENCES edit_entry (id) ON DELETE CASCADE,
    table_name TEXT NOT NULL,
    row_id INTEGER NOT NULL,
    before TEXT,
    after TEXT
) STRICT;
INSERT INTO "edit_change" VALUES(1,1,'piece',1,'{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Lacquer","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"","layers":"","outputs":"","post":"","naming":""}','{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"","layers":"","outputs":"","post":"","naming":""}');
INSERT INTO "edit_change" VALUES(2,2,'piece',1,'{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"","layers":"","outputs":"","post":"","naming":""}','{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"","outputs":"","post":"","naming":""}');
INSERT INTO "edit_change" VALUES(3,3,'piece',1,'{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"","outputs":"","post":"","naming":""}','{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\"}]","outputs":"","post":"","naming":""}');
INSERT INTO "edit_change" VALUES(4,4,'piece',1,'{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\"}]","outputs":"","post":"","naming":""}','{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\",\"text\":\"Tea is free\"}]","outputs":"","post":"","naming":""}');
INSERT INTO "edit_change" VALUES(5,5,'piece',1,'{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\",\"text\":\"Tea is free\"}]","outputs":"","post":"","naming":""}','{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\",\"text\":\"Tea is free\"},{\"id\":2,\"kind\":\"bar\"}]","outputs":"","post":"","naming":""}');
INSERT INTO "edit_change" VALUES(6,6,'piece',1,'{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"quick","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\",\"text\":\"Tea is free\"},{\"id\":2,\"kind\":\"bar\"}]","outputs":"","post":"","naming":""}','{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"sentence","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\",\"text\":\"Tea is free\"},{\"id\":2,\"kind\":\"bar\"}]","outputs":"","post":"","naming":""}');
INSERT INTO "edit_change" VALUES(7,6,'shown_word',4,'{"id":4,"cue_id":2,"word_id":4,"strand_id":1,"position":0,"seam":"free","accent":0,"look":"","own":"","capital":0}',NULL);
INSERT INTO "edit_change" VALUES(8,6,'shown_word',5,'{"id":5,"cue_id":2,"word_id":5,"strand_id":1,"position":1,"seam":"free","accent":0,"look":"","own":"","capital":0}',NULL);
INSERT INTO "edit_change" VALUES(9,6,'shown_word',6,'{"id":6,"cue_id":2,"word_id":6,"strand_id":1,"position":2,"seam":"free","accent":0,"look":"","own":"","capital":0}',NULL);
INSERT INTO "edit_change" VALUES(10,6,'shown_word',7,'{"id":7,"cue_id":3,"word_id":7,"strand_id":1,"position":0,"seam":"free","accent":0,"look":"","own":"","capital":0}',NULL);
INSERT INTO "edit_change" VALUES(11,6,'shown_word',8,'{"id":8,"cue_id":3,"word_id":8,"strand_id":1,"position":1,"seam":"free","accent":0,"look":"","own":"","capital":0}',NULL);
INSERT INTO "edit_change" VALUES(12,6,'shown_word',9,'{"id":9,"cue_id":4,"word_id":9,"strand_id":1,"position":0,"seam":"free","accent":0,"look":"","own":"","capital":0}',NULL);
INSERT INTO "edit_change" VALUES(13,6,'shown_word',10,'{"id":10,"cue_id":4,"word_id":10,"strand_id":1,"position":1,"seam":"free","accent":0,"look":"","own":"","capital":0}',NULL);
INSERT INTO "edit_change" VALUES(14,6,'cue',2,'{"id":2,"piece_id":1,"said_start_us":1400000,"said_end_us":2400000,"start_pinned":0,"end_pinned":0}',NULL);
INSERT INTO "edit_change" VALUES(15,6,'cue',3,'{"id":3,"piece_id":1,"said_start_us":2400000,"said_end_us":3200000,"start_pinned":0,"end_pinned":0}',NULL);
INSERT INTO "edit_change" VALUES(16,6,'cue',4,'{"id":4,"piece_id":1,"said_start_us":3200000,"said_end_us":4200000,"start_pinned":0,"end_pinned":0}',NULL);
INSERT INTO "edit_change" VALUES(17,6,'cue',1,'{"id":1,"piece_id":1,"said_start_us":200000,"said_end_us":1400000,"start_pinned":0,"end_pinned":0}','{"id":1,"piece_id":1,"said_start_us":200000,"said_end_us":4200000,"start_pinned":0,"end_pinned":0}');
INSERT INTO "edit_change" VALUES(18,6,'shown_word',11,NULL,'{"id":11,"cue_id":1,"word_id":4,"strand_id":1,"position":3,"seam":"free","accent":0,"look":"","own":"","capital":0}');
INSERT INTO "edit_change" VALUES(19,6,'shown_word',12,NULL,'{"id":12,"cue_id":1,"word_id":5,"strand_id":1,"position":4,"seam":"free","accent":0,"look":"","own":"","capital":0}');
INSERT INTO "edit_change" VALUES(20,6,'shown_word',13,NULL,'{"id":13,"cue_id":1,"word_id":6,"strand_id":1,"position":5,"seam":"free","accent":0,"look":"","own":"","capital":0}');
INSERT INTO "edit_change" VALUES(21,6,'shown_word',14,NULL,'{"id":14,"cue_id":1,"word_id":7,"strand_id":1,"position":6,"seam":"free","accent":0,"look":"","own":"","capital":0}');
INSERT INTO "edit_change" VALUES(22,6,'shown_word',15,NULL,'{"id":15,"cue_id":1,"word_id":8,"strand_id":1,"position":7,"seam":"free","accent":0,"look":"","own":"","capital":0}');
INSERT INTO "edit_change" VALUES(23,6,'shown_word',16,NULL,'{"id":16,"cue_id":1,"word_id":9,"strand_id":1,"position":8,"seam":"free","accent":0,"look":"","own":"","capital":0}');
INSERT INTO "edit_change" VALUES(24,6,'shown_word',17,NULL,'{"id":17,"cue_id":1,"word_id":10,"strand_id":1,"position":9,"seam":"free","accent":0,"look":"","own":"","capital":0}');
INSERT INTO "edit_change" VALUES(25,7,'clip',2,NULL,'{"id":2,"piece_id":1,"position":-1048576,"strand_id":1,"start_us":0,"end_us":1450000}');
INSERT INTO "edit_change" VALUES(26,7,'clip',1,'{"id":1,"piece_id":1,"position":0,"strand_id":1,"start_us":0,"end_us":6000000}','{"id":1,"piece_id":1,"position":0,"strand_id":1,"start_us":2050000,"end_us":6000000}');
INSERT INTO "edit_change" VALUES(29,8,'piece',1,'{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"Chalk","pace":"sentence","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\",\"text\":\"Tea is free\"},{\"id\":2,\"kind\":\"bar\"}]","outputs":"","post":"","naming":""}','{"id":1,"project_id":1,"name":"tea","width":184,"height":320,"finish":"{\"version\":1,\"name\":\"Chalk\",\"about\":\"Handwriting on a slate, letter by letter as it is said.\",\"font\":\"Caveat\",\"weight\":700,\"size\":0.09,\"case\":\"as_written\",\"letter_gap\":0.0,\"word_gap\":0.24,\"line_height\":1.05,\"max_lines\":3,\"align\":\"centre\",\"place\":{\"across\":\"centre\",\"down\":\"middle\",\"dx\":0.0,\"dy\":0.2,\"width\":0.8,\"turn\":-1.5},\"ahead\":[244,241,230,255],\"live\":[244,241,230,255],\"past\":[228,226,216,255],\"lit\":\"word\",\"outlines\":[],\"shadow\":null,\"plate\":{\"colour\":[38,50,52,232],\"pad_x\":0.34,\"pad_y\":0.16,\"radius\":0.12,\"behind\":\"caption\"},\"plank\":null,\"accents\":[{\"name\":\"Bright\",\"about\":\"In the second colour.\",\"ahead\":null,\"live\":[250,214,110,255],\"past\":[250,214,110,255],\"scale\":1.0,\"weight\":null,\"tilt\":0.0,\"lift\":0.0,\"plate\":null,\"outlines\":null,\"emphasis\":null,\"loop\":null,\"dx\":0.0,\"font\":null,\"case\":null,\"companion\":null},{\"name\":\"Loud\",\"about\":\"Larger, in the second colour.\",\"ahead\":null,\"live\":[250,214,110,255],\"past\":[250,214,110,255],\"scale\":1.25,\"weight\":null,\"tilt\":0.0,\"lift\":0.0,\"plate\":null,\"outlines\":null,\"emphasis\":null,\"loop\":null,\"dx\":0.0,\"font\":null,\"case\":null,\"companion\":null},{\"name\":\"Hush\",\"about\":\"Smaller and quieter.\",\"ahead\":[176,184,180,255],\"live\":null,\"past\":[176,184,180,255],\"scale\":0.82,\"weight\":null,\"tilt\":0.0,\"lift\":0.0,\"plate\":null,\"outlines\":null,\"emphasis\":null,\"loop\":null,\"dx\":0.0,\"font\":null,\"case\":null,\"companion\":null},{\"name\":\"Tag\",\"about\":\"On a plate of its own.\",\"ahead\":[24,34,36,255],\"live\":[24,34,36,255],\"past\":[24,34,36,255],\"scale\":1.0,\"weight\":null,\"tilt\":0.0,\"lift\":0.0,\"plate\":{\"colour\":[120,190,178,255],\"pad_x\":0.14,\"pad_y\":-0.04,\"radius\":0.14},\"outlines\":[],\"emphasis\":null,\"loop\":null,\"dx\":0.0,\"font\":null,\"case\":null,\"companion\":null},{\"name\":\"Lean\",\"about\":\"Tilted and raised, with a beat as it is said.\",\"ahead\":null,\"live\":[250,214,110,255],\"past\":[250,214,110,255],\"scale\":1.08,\"weight\":null,\"tilt\":-5.0,\"lift\":0.05,\"plate\":null,\"outlines\":null,\"emphasis\":{\"kind\":\"pulse\",\"duration_ms\":260,\"strength\":1.0,\"curve\":\"out\"},\"loop\":null,\"dx\":0.0,\"font\":null,\"case\":null,\"companion\":null}],\"pattern\":null,\"motion\":{\"entrance\":{\"kind\":\"fade\",\"by\":\"letter\",\"when\":\"spoken\",\"duration_ms\":60,\"delay_ms\":0,\"stagger_ms\":40,\"strength\":1.0,\"curve\":\"out\"},\"emphasis\":{\"kind\":\"none\",\"duration_ms\":140,\"strength\":1.0,\"curve\":\"out\"},\"exit\":{\"kind\":\"fade\",\"by\":\"caption\",\"duration_ms\":120,\"stagger_ms\":30,\"strength\":1.0,\"curve\":\"inout\",\"overlap\":false},\"loop\":{\"kind\":\"none\",\"by\":\"caption\",\"period_ms\":1800,\"strength\":1.0}}}","pace":"sentence","show_speakers":0,"checked_by":"own","standing":"","file_pace":"","goal_us":0,"shapes":"[{\"id\":1,\"width\":184,\"height\":320},{\"id\":2,\"width\":240,\"height\":240,\"framing\":{\"fit\":\"fill\",\"follow\":\"calm\"}}]","layers":"[{\"id\":1,\"kind\":\"headline\",\"text\":\"Tea is free\"},{\"id\":2,\"kind\":\"bar\"}]","outputs":"","post":"","naming":""}');
CREATE TABLE edit_entry (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    label TEXT NOT NULL,
    command TEXT NOT NULL,
    made_us INTEGER NOT NULL,
    undone INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO "edit_entry" VALUES(1,1,'finish Chalk','{"kind":"set_finish","piece_id":1,"finish":{"version":1,"name":"Chalk","about":"Handwriting on a slate, letter by letter as it is said.","font":"Caveat","weight":700,"size":0.118,"case":"as_written","letter_gap":0.0,"word_gap":0.24,"line_height":1.05,"max_lines":3,"align":"centre","place":{"across":"centre","down":"middle","dx":0.0,"dy":0.2,"width":0.8,"turn":-1.5},"ahead":[244,241,230,255],"live":[244,241,230,255],"past":[228,226,216,255],"lit":"word","outlines":[],"shadow":null,"plate":{"colour":[38,50,52,232],"pad_x":0.34,"pad_y":0.16,"radius":0.12,"behind":"caption"},"plank":null,"accents":[{"name":"Bright","about":"In the second colour.","ahead":null,"live":[250,214,110,255],"past":[250,214,110,255],"scale":1.0,"weight":null,"tilt":0.0,"lift":0.0,"plate":null,"outlines":null,"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Loud","about":"Larger, in the second colour.","ahead":null,"live":[250,214,110,255],"past":[250,214,110,255],"scale":1.25,"weight":null,"tilt":0.0,"lift":0.0,"plate":null,"outlines":null,"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Hush","about":"Smaller and quieter.","ahead":[176,184,180,255],"live":null,"past":[176,184,180,255],"scale":0.82,"weight":null,"tilt":0.0,"lift":0.0,"plate":null,"outlines":null,"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Tag","about":"On a plate of its own.","ahead":[24,34,36,255],"live":[24,34,36,255],"past":[24,34,36,255],"scale":1.0,"weight":null,"tilt":0.0,"lift":0.0,"plate":{"colour":[120,190,178,255],"pad_x":0.14,"pad_y":-0.04,"radius":0.14},"outlines":[],"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Lean","about":"Tilted and raised, with a beat as it is said.","ahead":null,"live":[250,214,110,255],"past":[250,214,110,255],"scale":1.08,"weight":null,"tilt":-5.0,"lift":0.05,"plate":null,"outlines":null,"emphasis":{"kind":"pulse","duration_ms":260,"strength":1.0,"curve":"out"},"loop":null,"dx":0.0,"font":null,"case":null,"companion":null}],"pattern":null,"motion":{"entrance":{"kind":"fade","by":"letter","when":"spoken","duration_ms":60,"delay_ms":0,"stagger_ms":40,"strength":1.0,"curve":"out"},"emphasis":{"kind":"none","duration_ms":140,"strength":1.0,"curve":"out"},"exit":{"kind":"fade","by":"caption","duration_ms":120,"stagger_ms":30,"strength":1.0,"curve":"inout","overlap":false},"loop":{"kind":"none","by":"caption","period_ms":1800,"strength":1.0}}}}',1796175927765651,0);
INSERT INTO "edit_entry" VALUES(2,1,'add shape square','{"kind":"add_shape","piece_id":1,"width":240,"height":240}',1796175927773999,0);
INSERT INTO "edit_entry" VALUES(3,1,'add headline','{"kind":"add_layer","piece_id":1,"layer":"headline","text":"","picture":null}',1796175927779425,0);
INSERT INTO "edit_entry" VALUES(4,1,'text of headline','{"piece_id":1,"layer_id":1,"kind":"change_layer","changes":{"text":"Tea is free","colour":null,"under":null,"radius":null,"opacity":null,"picture":null,"wave":null,"tail":null,"coming":null,"going":null}}',1796175927784150,0);
INSERT INTO "edit_entry" VALUES(5,1,'add progress bar','{"kind":"add_layer","piece_id":1,"layer":"bar","text":"","picture":null}',1796175927787334,0);
INSERT INTO "edit_entry" VALUES(6,1,'pace sentence','{"kind":"set_pace","piece_id":1,"pace":{"words":16,"lines":2,"line_chars":42,"chars_per_s":20,"lead_us":40000,"linger_us":250000,"shortest_us":833000,"longest_us":7000000,"close_us":500000,"gap_frames":2,"snap":true}}',1796175927789779,0);
INSERT INTO "edit_entry" VALUES(7,1,'strike “and chairs”','{"piece_id":1,"passages":[{"strand_id":1,"first_word":4,"last_word":5}],"before_us":60000,"after_us":120000,"kind":"strike_words"}',1796175927967175,0);
INSERT INTO "edit_entry" VALUES(8,1,'finish: size','{"kind":"change_finish","piece_id":1,"changes":{"size":0.09}}',1796175928051595,0);
CREATE TABLE glossary_entry (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    written TEXT NOT NULL UNIQUE COLLATE NOCASE,
    heard TEXT NOT NULL
) STRICT;
CREATE TABLE job (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    payload TEXT NOT NULL,
    status TEXT NOT NULL CHECK (status IN ('queued', 'running', 'done', 'failed', 'cancelled')),
    progress REAL NOT NULL DEFAULT 0,
    error TEXT,
    attempts INTEGER NOT NULL DEFAULT 0,
    cancel_asked INTEGER NOT NULL DEFAULT 0,
    lease_until_us INTEGER NOT NULL DEFAULT 0,
    created_us INTEGER NOT NULL,
    started_us INTEGER,
    finished_us INTEGER
, report TEXT NOT NULL DEFAULT '[]', token TEXT, farthest REAL NOT NULL DEFAULT 0, began REAL, at_once INTEGER NOT NULL DEFAULT 0, paused INTEGER NOT NULL DEFAULT 0, rank REAL NOT NULL DEFAULT 0) STRICT;
CREATE TABLE microphone (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    source_id INTEGER NOT NULL UNIQUE REFERENCES source (id) ON DELETE CASCADE,
    sound_id INTEGER NOT NULL REFERENCES source (id) ON DELETE CASCADE,
    offset_us INTEGER NOT NULL,
    drift_ppm REAL NOT NULL,
    sure REAL NOT NULL
) STRICT;
CREATE TABLE migration (name TEXT PRIMARY KEY, run_us INTEGER NOT NULL) STRICT;
INSERT INTO "migration" VALUES('0001_first.sql',1796175927016910);
INSERT INTO "migration" VALUES('0002_alternatives.sql',1796175927017624);
INSERT INTO "migration" VALUES('0003_proof.sql',1796175927022073);
INSERT INTO "migration" VALUES('0004_pace.sql',1796175927024565);
INSERT INTO "migration" VALUES('0005_accents.sql',1796175927025247);
INSERT INTO "migration" VALUES('0006_dress.sql',1796175927027555);
INSERT INTO "migration" VALUES('0007_hands.sql',1796175927028875);
INSERT INTO "migration" VALUES('0008_leases.sql',1796175927030506);
INSERT INTO "migration" VALUES('0009_clips.sql',1796175927032292);
INSERT INTO "migration" VALUES('0010_squash.sql',1796175927032943);
INSERT INTO "migration" VALUES('0011_changes.sql',1796175927033253);
INSERT INTO "migration" VALUES('0012_orders.sql',1796175927038142);
INSERT INTO "migration" VALUES('0013_first_frame.sql',1796175927039027);
INSERT INTO "migration" VALUES('0014_names.sql',1796175927044011);
INSERT INTO "migration" VALUES('0015_at_once.sql',1796175927045236);
INSERT INTO "migration" VALUES('0016_strands.sql',1796175927062216);
INSERT INTO "migration" VALUES('0017_pieces.sql',1796175927071917);
INSERT INTO "migration" VALUES('0018_microphone.sql',1796175927072595);
INSERT INTO "migration" VALUES('0019_shapes.sql',1796175927073395);
INSERT INTO "migration" VALUES('0020_subjects.sql',1796175927073637);
INSERT INTO "migration" VALUES('0021_layers.sql',1796175927074365);
INSERT INTO "migration" VALUES('0022_jigs.sql',1796175927074634);
INSERT INTO "migration" VALUES('0023_pictures.sql',1796175927074921);
INSERT INTO "migration" VALUES('0024_drawn_subjects.sql',1796175927075688);
INSERT INTO "migration" VALUES('0025_outputs.sql',1796175927076511);
INSERT INTO "migration" VALUES('0026_post.sql',1796175927077333);
INSERT INTO "migration" VALUES('0027_files.sql',1796175927091587);
INSERT INTO "migration" VALUES('0028_crowding.sql',1796175927092048);
INSERT INTO "migration" VALUES('0029_tracks.sql',1796175927092880);
INSERT INTO "migration" VALUES('0030_capitals.sql',1796175927093741);
CREATE TABLE palette (
    colour TEXT PRIMARY KEY
) STRICT;
CREATE TABLE picture (
  digest TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  added TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP
) STRICT;
CREATE TABLE piece (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    finish TEXT NOT NULL,
    pace TEXT NOT NULL
, show_speakers INTEGER NOT NULL DEFAULT 0, checked_by TEXT NOT NULL DEFAULT 'own'
    CHECK (checked_by IN ('feed', 'course', 'own')), standing TEXT NOT NULL DEFAULT '', file_pace TEXT NOT NULL DEFAULT '', goal_us INTEGER NOT NULL DEFAULT 0, shapes TEXT NOT NULL DEFAULT '', layers TEXT NOT NULL DEFAULT '', outputs TEXT NOT NULL DEFAULT '', post TEXT NOT NULL DEFAULT '', naming TEXT NOT NULL DEFAULT '') STRICT;
INSERT INTO "piece" VALUES(1,1,'tea',184,320,'{"version":1,"name":"Chalk","about":"Handwriting on a slate, letter by letter as it is said.","font":"Caveat","weight":700,"size":0.09,"case":"as_written","letter_gap":0.0,"word_gap":0.24,"line_height":1.05,"max_lines":3,"align":"centre","place":{"across":"centre","down":"middle","dx":0.0,"dy":0.2,"width":0.8,"turn":-1.5},"ahead":[244,241,230,255],"live":[244,241,230,255],"past":[228,226,216,255],"lit":"word","outlines":[],"shadow":null,"plate":{"colour":[38,50,52,232],"pad_x":0.34,"pad_y":0.16,"radius":0.12,"behind":"caption"},"plank":null,"accents":[{"name":"Bright","about":"In the second colour.","ahead":null,"live":[250,214,110,255],"past":[250,214,110,255],"scale":1.0,"weight":null,"tilt":0.0,"lift":0.0,"plate":null,"outlines":null,"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Loud","about":"Larger, in the second colour.","ahead":null,"live":[250,214,110,255],"past":[250,214,110,255],"scale":1.25,"weight":null,"tilt":0.0,"lift":0.0,"plate":null,"outlines":null,"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Hush","about":"Smaller and quieter.","ahead":[176,184,180,255],"live":null,"past":[176,184,180,255],"scale":0.82,"weight":null,"tilt":0.0,"lift":0.0,"plate":null,"outlines":null,"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Tag","about":"On a plate of its own.","ahead":[24,34,36,255],"live":[24,34,36,255],"past":[24,34,36,255],"scale":1.0,"weight":null,"tilt":0.0,"lift":0.0,"plate":{"colour":[120,190,178,255],"pad_x":0.14,"pad_y":-0.04,"radius":0.14},"outlines":[],"emphasis":null,"loop":null,"dx":0.0,"font":null,"case":null,"companion":null},{"name":"Lean","about":"Tilted and raised, with a beat as it is said.","ahead":null,"live":[250,214,110,255],"past":[250,214,110,255],"scale":1.08,"weight":null,"tilt":-5.0,"lift":0.05,"plate":null,"outlines":null,"emphasis":{"kind":"pulse","duration_ms":260,"strength":1.0,"curve":"out"},"loop":null,"dx":0.0,"font":null,"case":null,"companion":null}],"pattern":null,"motion":{"entrance":{"kind":"fade","by":"letter","when":"spoken","duration_ms":60,"delay_ms":0,"stagger_ms":40,"strength":1.0,"curve":"out"},"emphasis":{"kind":"none","duration_ms":140,"strength":1.0,"curve":"out"},"exit":{"kind":"fade","by":"caption","duration_ms":120,"stagger_ms":30,"strength":1.0,"curve":"inout","overlap":false},"loop":{"kind":"none","by":"caption","period_ms":1800,"strength":1.0}}}','sentence',0,'own','','',0,'[{"id":1,"width":184,"height":320},{"id":2,"width":240,"height":240,"framing":{"fit":"fill","follow":"calm"}}]','[{"id":1,"kind":"headline","text":"Tea is free"},{"id":2,"kind":"bar"}]','','','');
CREATE TABLE preference (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT;
CREATE TABLE project (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL,
    created_us INTEGER NOT NULL,
    changed_us INTEGER NOT NULL,
    revision INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO "project" VALUES(1,'tea',1796175927657249,1796175928054901,8);
CREATE TABLE revision_change (
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('edit', 'follow', 'step')),
    touched TEXT NOT NULL,
    rewritten TEXT NOT NULL,
    settings INTEGER NOT NULL, moved INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (project_id, revision)
) STRICT, WITHOUT ROWID;
INSERT INTO "revision_change" VALUES(1,1,'edit','[]','[]',1,0);
INSERT INTO "revision_change" VALUES(1,2,'edit','[]','[]',1,0);
INSERT INTO "revision_change" VALUES(1,3,'edit','[]','[]',1,0);
INSERT INTO "revision_change" VALUES(1,4,'edit','[]','[]',1,0);
INSERT INTO "revision_change" VALUES(1,5,'edit','[]','[]',1,0);
INSERT INTO "revision_change" VALUES(1,6,'edit','[1, 2, 3, 4]','[1, 2, 3, 4]',1,0);
INSERT INTO "revision_change" VALUES(1,7,'edit','[1]','[]',1,1);
INSERT INTO "revision_change" VALUES(1,8,'edit','[]','[]',1,0);
CREATE TABLE saved_finish (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    finish TEXT NOT NULL
) STRICT;
CREATE TABLE saved_jig (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    jig TEXT NOT NULL
) STRICT;
CREATE TABLE saved_outputs (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    outputs TEXT NOT NULL
) STRICT;
CREATE TABLE saved_pace (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    pace TEXT NOT NULL
) STRICT;
CREATE TABLE setting (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT;
CREATE TABLE "shown_word" (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    cue_id INTEGER NOT NULL REFERENCES "cue" (id) ON DELETE CASCADE,
    word_id INTEGER NOT NULL REFERENCES word (id) ON DELETE CASCADE,
    strand_id INTEGER NOT NULL REFERENCES strand (id),
    position INTEGER NOT NULL,
    seam TEXT NOT NULL DEFAULT 'free' CHECK (seam IN ('free', 'break', 'join', 'line')),
    accent INTEGER NOT NULL DEFAULT 0,
    look TEXT NOT NULL DEFAULT '',
    own TEXT NOT NULL DEFAULT '', capital INTEGER NOT NULL DEFAULT 0,
    UNIQUE (cue_id, position)
) STRICT;
INSERT INTO "shown_word" VALUES(1,1,1,1,0,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(2,1,2,1,1,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(3,1,3,1,2,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(11,1,4,1,3,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(12,1,5,1,4,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(13,1,6,1,5,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(14,1,7,1,6,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(15,1,8,1,7,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(16,1,9,1,8,'free',0,'','',0);
INSERT INTO "shown_word" VALUES(17,1,10,1,9,'free',0,'','',0);
CREATE TABLE source (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    path TEXT NOT NULL,
    proxy_path TEXT,
    kind TEXT NOT NULL CHECK (kind IN ('video', 'audio')),
    size_bytes INTEGER NOT NULL,
    duration_us INTEGER NOT NULL CHECK (duration_us > 0),
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    rotation INTEGER NOT NULL,
    frame_count INTEGER NOT NULL,
    frame_rate REAL NOT NULL,
    variable_rate INTEGER NOT NULL,
    audio_tracks INTEGER NOT NULL,
    video_codec TEXT,
    audio_codec TEXT,
    playable INTEGER NOT NULL
, audio_track INTEGER NOT NULL DEFAULT 0, language TEXT NOT NULL DEFAULT 'en', first_frame_us INTEGER NOT NULL DEFAULT 0, track_names TEXT NOT NULL DEFAULT '[]') STRICT;
INSERT INTO "source" VALUES(1,1,'tea.mp4','sources/f17f28ac85cc4492b330e44bb954fc87/recording',NULL,'video',64668,6000000,184,320,0,30,5.0,0,1,'h264','aac',1,0,'en',0,'[""]');
CREATE TABLE strand (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    source_id INTEGER NOT NULL REFERENCES source (id),
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us > start_us)
) STRICT;
INSERT INTO "strand" VALUES(1,1,1,0,6000000);
CREATE TABLE subject (
    source_id INTEGER PRIMARY KEY REFERENCES source (id) ON DELETE CASCADE,
    tracks TEXT NOT NULL
, looked INTEGER NOT NULL DEFAULT 0) STRICT;
CREATE TABLE word (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    source_id INTEGER NOT NULL REFERENCES source (id) ON DELETE CASCADE,
    text TEXT NOT NULL,
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us >= start_us),
    confidence REAL,
    speaker TEXT,
    origin TEXT NOT NULL CHECK (origin IN ('heard', 'typed', 'imported', 'tapped')),
    aligned INTEGER NOT NULL
, alternatives TEXT NOT NULL DEFAULT '[]', heard_as TEXT) STRICT;
INSERT INTO "word" VALUES(1,1,'We',400000,700000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(2,1,'mend',750000,1050000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(3,1,'kettles',1100000,1400000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(4,1,'and',1450000,1750000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(5,1,'chairs',1800000,2100000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(6,1,'here,',2150000,2450000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(7,1,'and',2500000,2800000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(8,1,'tea',2850000,3150000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(9,1,'is',3200000,3500000,0.9,NULL,'heard',1,'[]',NULL);
INSERT INTO "word" VALUES(10,1,'free.',3550000,3850000,0.9,NULL,'heard',1,'[]',NULL);
CREATE INDEX source_project ON source (project_id);
CREATE INDEX word_source ON word (source_id, start_us);
CREATE INDEX piece_project ON piece (project_id);
CREATE INDEX edit_entry_project ON edit_entry (project_id, id);
CREATE INDEX job_project ON job (project_id);
CREATE INDEX job_status ON job (status);
CREATE INDEX correction_heard ON correction (heard, written);
CREATE UNIQUE INDEX edit_change_row ON edit_change (entry_id, table_name, row_id);
CREATE INDEX strand_piece ON strand (piece_id);
CREATE INDEX shown_word_word ON shown_word (word_id);
CREATE INDEX shown_word_strand ON shown_word (strand_id);
CREATE INDEX clip_piece ON clip (piece_id, position);
CREATE INDEX clip_strand ON clip (strand_id);
CREATE INDEX microphone_sound ON microphone (sound_id);
CREATE INDEX delivery_piece ON delivery (piece_id);
CREATE INDEX delivery_project ON delivery (project_id);
CREATE INDEX delivered_file_job ON delivered_file (job_id);
CREATE INDEX cue_piece ON cue (piece_id, start_us, id, end_us);
DELETE FROM "sqlite_sequence";
INSERT INTO "sqlite_sequence" VALUES('strand',1);
INSERT INTO "sqlite_sequence" VALUES('cue',4);
INSERT INTO "sqlite_sequence" VALUES('shown_word',17);
INSERT INTO "sqlite_sequence" VALUES('clip',2);
INSERT INTO "sqlite_sequence" VALUES('delivery',0);
INSERT INTO "sqlite_sequence" VALUES('delivered_file',0);
INSERT INTO "sqlite_sequence" VALUES('project',1);
INSERT INTO "sqlite_sequence" VALUES('source',1);
INSERT INTO "sqlite_sequence" VALUES('piece',1);
INSERT INTO "sqlite_sequence" VALUES('job',2);
INSERT INTO "sqlite_sequence" VALUES('word',10);
INSERT INTO "sqlite_sequence" VALUES('edit_entry',8);
INSERT INTO "sqlite_sequence" VALUES('edit_change',29);
COMMIT;
