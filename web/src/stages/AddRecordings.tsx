/** More recordings for the project: each becomes a piece, to be cut and put together with the others. */
import { Plus } from "lucide-react";
import { useRef, useState } from "react";
import type { Problem, Project, Schemas } from "../api/client";
import { type Upload, upload } from "../start/upload";
import { reload, showPiece } from "../state/server";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { say } from "../ui/notice";
import { Progress } from "../ui/Progress";

type Added = Schemas["Added"];

interface Arriving {
  name: string;
  part: number;
  transfer: Upload<Added>;
}

export function AddRecordings({ project }: { project: Project }) {
  const picker = useRef<HTMLInputElement>(null);
  const [arriving, setArriving] = useState<Arriving[]>([]);

  const takeIn = (files: readonly File[]) => {
    const language = project.sources[0]?.language ?? "en";
    for (const file of files) {
      const tell = (part: number) =>
        setArriving((list) =>
          list.map((one) => (one.transfer === transfer ? { ...one, part } : one)),
        );
      const transfer = upload<Added>(
        `/api/projects/${project.id}/recordings`,
        file,
        { language, transcribe: true },
        tell,
      );
      setArriving((list) => [...list, { name: file.name, part: 0, transfer }]);
      transfer.done
        .then(async ({ piece_id }) => {
          await reload();
          if (piece_id === null)
            say(`${file.name} has no sound: it can be seen over the talk, in Frame under Cuts.`);
          else if (files.length === 1) await showPiece(piece_id);
        })
        .catch((problem: Problem) => {
          if (problem.code !== "cancelled")
            say(`${file.name} was not taken. ${problem.message}`, "wrong");
        })
        .finally(() => setArriving((list) => list.filter((one) => one.transfer !== transfer)));
    }
  };

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping has a button beside it that does the same
    <div
      className="space-y-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        takeIn([...event.dataTransfer.files]);
      }}
    >
      {arriving.map((one) => (
        <Progress
          key={one.name}
          label={one.part < 1 ? one.name : `${one.name}: looking what it is`}
          value={one.part}
          onCancel={one.part < 1 ? one.transfer.cancel : undefined}
        />
      ))}
      <Button onClick={() => picker.current?.click()}>
        <Plus size={14} aria-hidden /> Add recordings
      </Button>
      <FilePick
        ref={picker}
        label="More recordings"
        accept="video/*,audio/*,.mkv,.mov"
        multiple
        onFiles={takeIn}
      />
    </div>
  );
}
