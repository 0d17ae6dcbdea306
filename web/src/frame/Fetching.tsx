/** What is on its way from a library, and what did not come. */
import { api, take } from "../api/client";
import { useProject } from "../state/store";
import { attempt } from "../ui/notice";
import { Progress } from "../ui/Progress";

export function Fetching() {
  const jobs = useProject((state) => state.project?.jobs);
  const fetching = jobs?.filter((job) => job.kind === "fetch") ?? [];
  const last = fetching.at(-1);
  return (
    <>
      {fetching
        .filter((job) => job.status === "queued" || job.status === "running")
        .map((job) => (
          <Progress
            key={job.id}
            label="From the library"
            value={job.progress}
            secondsLeft={job.seconds_left}
            onCancel={() =>
              void attempt(
                take(
                  api.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: job.id } } }),
                ),
              )
            }
          />
        ))}
      {last?.status === "failed" && (
        <p role="alert" className="text-small">
          {last.error}
        </p>
      )}
    </>
  );
}
