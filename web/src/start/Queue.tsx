/** What is being delivered of all projects, in the order it is made in. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "wouter";
import { api, type Schemas, takeAs } from "../api/client";
import { Making } from "../deliver/DeliveryCard";

export const QUEUE = ["queue"];
const SOON_MS = 1_000;
const LATER_MS = 4_000;

export function Queue() {
  const { data = [] } = useQuery({
    queryKey: QUEUE,
    queryFn: () => takeAs<Schemas["QueuedView"][]>(api.GET("/api/queue")),
    refetchInterval: (query) => (query.state.data?.length ? SOON_MS : LATER_MS),
  });
  if (!data.length) return null;
  return (
    <section className="mt-8" aria-label="Being delivered">
      <h2 className="mb-2 font-bold">Being delivered</h2>
      <ul className="grid grid-cols-2 gap-x-6 gap-y-2 rounded border border-line bg-card p-3">
        {data.map(({ file, project, project_id }) => (
          <Making
            key={file.id}
            file={file}
            of={
              <Link href={`/projects/${project_id}`} className="hover:underline">
                {project}
              </Link>
            }
          />
        ))}
      </ul>
    </section>
  );
}
