"""How the picture lies in its frames, who is followed, and what stands over it.

``shape`` and ``frame`` (the frames), ``placing`` and ``clip_framing`` (the geometry), ``subject`` and ``following``
(faces), ``moving`` (moves over a piece), ``layer`` and ``own_picture`` (what stands over it), ``guides`` (what
feeds cover).
"""
