"""The compositor: the picture, the captions and the sound of a programme, moment by moment."""
