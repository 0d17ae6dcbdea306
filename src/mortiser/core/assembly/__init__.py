"""What lies on the talk, and what happens between its clips.

``cutaway`` and ``covering`` (pictures over words), ``transition`` and ``joining`` (how one picture goes over into
another), ``grade`` (how pictures look), ``assembled`` (all of that, of one piece in one of its shapes).
"""
