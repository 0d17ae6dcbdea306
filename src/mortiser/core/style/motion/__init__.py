"""Motion: what every item of a caption looks like at time t, as keyframed tracks."""
