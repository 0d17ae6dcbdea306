"""Libraries to bring films, pictures and sounds in from: one seam, and what stands behind it."""
