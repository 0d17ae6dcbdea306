/** A film brought in to be seen over the talk, with or without sound. */
import { Film } from "lucide-react";
import { useRef, useState } from "react";
import type { Problem, Schemas } from "../api/client";
import { type Upload, upload } from "../start/upload";
import { reload } from "../state/server";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { say } from "../ui/notice";
import { Progress } from "../ui/Progress";

type Added = Schemas["Added"];

export function FilmChoice(props: { projectId: number; onTaken: (sourceId: number) => void }) {
  const { projectId, onTaken } = props;
  const picker = useRef<HTMLInputElement>(null);
  const [coming, setComing] = useState<{ name: string; part: number; by: Upload<Added> } | null>(
    null,
  );
  const bring = ([file]: readonly File[]) => {
    if (!file) return;
    const by = upload<Added>(
      `/api/projects/${projectId}/recordings`,
      file,
      { language: "en", transcribe: false },
      (part) => setComing({ name: file.name, part, by }),
    );
    setComing({ name: file.name, part: 0, by });
    by.done
      .then(async ({ source_id }) => {
        await reload();
        onTaken(source_id);
      })
      .catch((problem: Problem) => {
        if (problem.code !== "cancelled")
          say(`${file.name} was not taken. ${problem.message}`, "wrong");
      })
      .finally(() => setComing(null));
  };
  if (coming) {
    return (
      <Progress
        label={coming.name}
        value={coming.part}
        onCancel={coming.part < 1 ? coming.by.cancel : undefined}
      />
    );
  }
  return (
    <>
      <Button onClick={() => picker.current?.click()}>
        <Film size={14} aria-hidden /> Bring in a film
      </Button>
      <FilePick ref={picker} label="A film to be seen" accept="video/*,.mkv,.mov" onFiles={bring} />
    </>
  );
}
