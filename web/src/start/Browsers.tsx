/** Where others can reach this Mortiser: the browsers that are paired, each to be sent away. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { Button } from "../ui/Button";
import { attempt } from "../ui/notice";

const BROWSERS = ["browsers"];
const DAY = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

export function Browsers() {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: BROWSERS,
    queryFn: () => take(api.GET("/api/browsers")),
  });
  if (!data?.open) return null;
  const remove = async (browser_id: number) => {
    await take(api.DELETE("/api/browsers/{browser_id}", { params: { path: { browser_id } } }));
    await client.invalidateQueries({ queryKey: BROWSERS });
  };
  return (
    <section className="mt-8" aria-label="Paired browsers">
      <h2 className="font-bold">Paired browsers</h2>
      <p className="mb-2 text-dim">
        These may read and change everything here. One that is removed is asked for the code again.
      </p>
      <ul className="divide-y divide-line rounded border border-line bg-card px-3">
        {data.browsers.map((one) => (
          <li key={one.id} className="flex items-center gap-3 py-2">
            <span className="min-w-0 flex-1 truncate">
              {one.name}
              {one.here && <span className="text-dim"> · this one</span>}
            </span>
            <span className="text-small text-dim">
              since {DAY.format(new Date(one.paired_us / 1_000))}
            </span>
            <Button
              aria-label={`Remove ${one.name}, paired ${DAY.format(new Date(one.paired_us / 1_000))}`}
              onClick={() => void attempt(remove(one.id))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
