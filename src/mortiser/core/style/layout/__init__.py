"""Text laid out once, for the browser and the delivery alike: shaping, line breaks, places."""
