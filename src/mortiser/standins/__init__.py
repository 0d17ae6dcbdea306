"""Small stand-ins for services outside: they answer as real ones would, with made-up contents."""
