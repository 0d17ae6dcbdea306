/** Outputs under a name: chosen, kept, forgotten. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { api, type Schemas, take, takeAs } from "../api/client";
import { Button } from "../ui/Button";
import { FIELD } from "../ui/fields";
import { IconButton } from "../ui/IconButton";
import { attempt, say } from "../ui/notice";
import { Select } from "../ui/Select";
import { type Output, same } from "./outputs";

type Set = Schemas["OutputSetView"];
const QUERY = ["output-sets"];
const OWN = "";

export function OutputSets(props: { outputs: Output[]; onChoose: (outputs: Output[]) => void }) {
  const { outputs, onChoose } = props;
  const client = useQueryClient();
  const [name, setName] = useState("");
  const { data = [] } = useQuery({
    queryKey: QUERY,
    queryFn: () => takeAs<Set[]>(api.GET("/api/output-sets")),
  });
  const chosen = data.find((one) => same(one.outputs, outputs));
  const again = () => client.invalidateQueries({ queryKey: QUERY });
  const save = async () => {
    await take(api.POST("/api/output-sets", { body: { name, outputs } }));
    say(`“${name.trim()}” is kept.`);
    setName("");
    await again();
  };
  const remove = async (id: number) => {
    await take(api.DELETE("/api/output-sets/{set_id}", { params: { path: { set_id: id } } }));
    await again();
  };
  return (
    <>
      <div className="flex items-center gap-1">
        <Select
          label="Set of files"
          options={[
            ...(chosen ? [] : [{ value: OWN, text: "as below" }]),
            ...data.map((one) => ({ value: one.name, text: one.name })),
          ]}
          chosen={chosen?.name ?? OWN}
          onChoose={(wanted) => {
            const found = data.find((one) => one.name === wanted);
            if (found) onChoose(found.outputs);
          }}
        />
        {chosen?.id != null && (
          <IconButton
            label={`Forget ${chosen.name}`}
            onClick={() => chosen.id !== null && void attempt(remove(chosen.id))}
          >
            <Trash2 size={14} />
          </IconButton>
        )}
      </div>
      {chosen?.about && <p className="text-small text-dim">{chosen.about}</p>}
      {!chosen && (
        <form
          className="flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void attempt(save());
          }}
        >
          <input
            aria-label="Name for these files"
            placeholder="Keep these as …"
            maxLength={40}
            className={FIELD}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" disabled={!name.trim()}>
            Keep
          </Button>
        </form>
      )}
    </>
  );
}
