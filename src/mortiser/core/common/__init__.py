"""What every package of the core uses: time, errors, limits of what is asked for, files of ours."""
