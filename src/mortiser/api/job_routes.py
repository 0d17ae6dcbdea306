"""Jobs: stopped, paused, moved to the front, done again."""

from __future__ import annotations

from mortiser.api import schemas
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.limits import Id
from mortiser.store import jobs

router = routes("/api/jobs", "jobs")


@router.post("/{job_id}/cancel")
def cancel(job_id: Id, context: OpenContext) -> schemas.JobView:
    """Stop a job."""
    return schemas.JobView.of(jobs.ask_cancel(context.database, job_id))


@router.post("/{job_id}/retry")
def retry(job_id: Id, context: OpenContext) -> schemas.JobView:
    """Do a failed or cancelled job again; transcription goes on where it stopped."""
    row = jobs.requeue(context.database, job_id)
    context.queue.submit(job_id)
    return schemas.JobView.of(row)


@router.post("/{job_id}/pause")
def pause(job_id: Id, context: OpenContext) -> schemas.JobView:
    """Let a job wait; one that runs begins anew when it goes on."""
    return schemas.JobView.of(jobs.pause(context.database, job_id))


@router.post("/{job_id}/resume")
def resume(job_id: Id, context: OpenContext) -> schemas.JobView:
    """Let a paused job go on."""
    row = jobs.resume(context.database, job_id)
    context.queue.submit(job_id)
    return schemas.JobView.of(row)


@router.post("/{job_id}/first")
def put_first(job_id: Id, context: OpenContext) -> schemas.JobView:
    """Have a delivery that waits made before all others."""
    return schemas.JobView.of(jobs.put_first(context.database, job_id))
