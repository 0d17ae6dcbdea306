/** For how long delivered files are kept, said where they are listed. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { attempt } from "../ui/notice";
import { Select } from "../ui/Select";

const QUERY = ["keeping"];
const RULES = [0, 7, 30, 90, 365].map((value) => ({
  value,
  text: value ? `for ${value} days, in all projects` : "until they are removed",
}));

export function Keeping() {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: QUERY,
    queryFn: () => take(api.GET("/api/keeping")),
  });
  if (!data) return null;
  const change = async (days: number) => {
    await take(api.PUT("/api/keeping", { body: { days } }));
    await client.invalidateQueries({ queryKey: QUERY });
  };
  return (
    <div className="mb-6 flex items-center gap-2 text-small">
      <span className="shrink-0 text-dim">Files are kept</span>
      <Select
        label="For how long files are kept"
        options={RULES}
        chosen={data.days}
        onChoose={(days) => void attempt(change(days))}
      />
    </div>
  );
}
