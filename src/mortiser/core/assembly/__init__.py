"""What lies on the talk, and what happens between its clips.

``cutaway`` and ``covering`` (pictures over words), ``transition`` and ``joining`` (how one picture goes over into
another), ``stretch`` (what both are), ``grade`` (how pictures look), ``ideas`` (where a cutaway would help),
``assembled`` (all of that, of one piece in one of its shapes).
"""
