"""How the picture lies in its frames, who is followed, and what stands over it."""
