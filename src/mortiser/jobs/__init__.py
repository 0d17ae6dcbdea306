"""Long work: a queue, a worker process, and one handler a kind of job."""
