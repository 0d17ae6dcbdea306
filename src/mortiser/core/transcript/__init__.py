"""What was said: words and their times, how sure they are, how they are written, found and voted on."""
