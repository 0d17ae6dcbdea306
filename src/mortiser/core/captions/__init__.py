"""Words as captions: grouped, timed, at a pace, checked, and what holds for them from now on."""
