"""What can be brought in from elsewhere: films, pictures, sounds and music, with who made them."""
