"""The compositor: the picture, the captions and the sound of a plan, moment by moment."""
