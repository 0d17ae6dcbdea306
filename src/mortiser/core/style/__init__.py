"""How captions look and move: finishes, motion, layout, the scene that both painters play."""
