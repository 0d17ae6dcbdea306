"""The piece in its time: clips and what they are cut from, what can go, takes, highlights, other microphones."""
