/** The start page: drop recordings, find projects again. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Moon, Sun, Upload as UploadIcon, X } from "lucide-react";
import { type DragEvent, useEffect, useRef, useState } from "react";
import { useLocation } from "wouter";
import { api, type Problem, take } from "../api/client";
import { bringInPicture, PICTURE_FILES } from "../frame/PictureChoice";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { FIELD } from "../ui/fields";
import { attempt, say } from "../ui/notice";
import { Progress } from "../ui/Progress";
import { Select } from "../ui/Select";
import { theme, turnTheme } from "../ui/theme";
import { arranged, ORDER, ORDERS, type Order } from "./arranged";
import { Browsers } from "./Browsers";
import { sendCaptions } from "./captionFile";
import { grouped } from "./grouped";
import { type HearingChoice, HearingFields, hearingBody, WHOLE } from "./HearingFields";
import { ProjectCard } from "./ProjectCard";
import { QUEUE, Queue } from "./Queue";
import { type Upload, upload } from "./upload";

interface Arriving {
  key: number;
  name: string;
  part: number;
  problem: string | null;
  transfer: Upload<{ project_id: number }>;
}

let nextKey = 1;
/** Which tracks a recording has is known once it has arrived; more than these are rare. */
const TRACKS = ["first", "second", "third", "fourth"];

export function StartPage() {
  const [, goTo] = useLocation();
  const client = useQueryClient();
  const [arriving, setArriving] = useState<Arriving[]>([]);
  const [over, setOver] = useState(false);
  const [choosing, setChoosing] = useState(false);
  const [choice, setChoice] = useState<HearingChoice>(WHOLE);
  const picker = useRef<HTMLInputElement>(null);
  const projects = useQuery({
    queryKey: ["projects"],
    queryFn: () => take(api.GET("/api/projects")),
    refetchInterval: 3_000,
  });

  useEffect(() => {
    document.title = "Mortiser";
  }, []);

  const change = (key: number, what: Partial<Arriving>) =>
    setArriving((list) => list.map((item) => (item.key === key ? { ...item, ...what } : item)));
  const drop = (key: number) => setArriving((list) => list.filter((item) => item.key !== key));

  const takeIn = (files: readonly File[]) => void attempt(bringIn([...files]));
  const bringIn = async (files: File[]) => {
    const body = hearingBody(choice);
    const { recordings, lonely } = await grouped(files);
    for (const file of lonely) {
      say(`${file.name} belongs to a recording: drop it together with that one.`, "wrong");
    }
    for (const { file, words, sounds, cover } of recordings) {
      const key = nextKey++;
      const choices = { ...body, transcribe: words === undefined };
      const transfer = upload<{ project_id: number }>("/api/projects", file, choices, (part) =>
        change(key, { part }),
      );
      setArriving((list) => [...list, { key, name: file.name, part: 0, problem: null, transfer }]);
      transfer.done
        .then(async ({ project_id: projectId }) => {
          if (cover) await showCover(projectId, cover);
          if (words) await sendCaptions(projectId, words, "guessed");
          for (const sound of sounds) {
            await upload(`/api/projects/${projectId}/recordings`, sound, choices, (part) =>
              change(key, { name: sound.name, part }),
            ).done.catch((problem: Problem) =>
              say(`${sound.name} was not taken. ${problem.message}`, "wrong"),
            );
          }
          drop(key);
          void client.invalidateQueries({ queryKey: ["projects"] });
          if (recordings.length === 1) goTo(`/projects/${projectId}`);
        })
        .catch((problem: Problem) =>
          problem.code === "cancelled" ? drop(key) : change(key, { problem: problem.message }),
        );
    }
  };

  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    takeIn([...event.dataTransfer.files]);
  };
  const list = projects.data ?? [];
  const [wanted, setWanted] = useState("");
  const [order, setOrder] = useState<Order>((localStorage.getItem(ORDER) as Order) ?? "changed");
  const shown = arranged(list, wanted, order);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const choose = (id: number, on: boolean) => {
    const next = new Set(chosen);
    if (on) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  const deliverChosen = async () => {
    for (const card of list.filter((one) => chosen.has(one.id))) {
      const params = { path: { project_id: card.id } };
      await take(api.POST("/api/projects/{project_id}/deliveries", { params })).catch(
        (problem: Problem) => say(`${card.name}: ${problem.message}`, "wrong"),
      );
    }
    setChosen(new Set());
    await client.invalidateQueries({ queryKey: QUEUE });
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping has a button beside it that does the same
    <div
      className="min-h-full bg-page"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
      onDrop={onDrop}
    >
      <header className="flex h-13 items-center border-b border-line px-8">
        <h1 className="text-[16px] font-bold">Mortiser</h1>
        <ThemeButton />
      </header>
      <main className="mx-auto max-w-5xl px-8 py-8">
        <section
          aria-label="Bring in recordings"
          className={`flex flex-col items-center rounded-lg border-2 border-dashed px-6 text-center ${
            over ? "border-chalk bg-chalk-wash" : "border-line bg-birch"
          } ${list.length ? "py-7" : "py-16"}`}
        >
          <UploadIcon size={26} className="text-dim" />
          <p className="mt-2 text-[17px]">Drop recordings here to caption them</p>
          <p className="mt-1 text-dim">
            MP4, MOV, WebM or MKV video, or WAV, MP3, M4A, OGG or FLAC sound, with a caption file, a
            script, or a song’s cover and lyrics beside it if there are any. Everything stays on
            this machine.
          </p>
          <Button kind="main" className="mt-4" onClick={() => picker.current?.click()}>
            Choose files
          </Button>
          {choosing ? (
            <div className="mt-3 w-80">
              <HearingFields choice={choice} tracks={TRACKS} onChange={setChoice} />
            </div>
          ) : (
            <button
              type="button"
              className="mt-2 text-small text-link hover:underline"
              onClick={() => setChoosing(true)}
            >
              Language, sound track, range …
            </button>
          )}
          <FilePick
            ref={picker}
            label="Recordings"
            accept={`video/*,audio/*,.mkv,.mov,.srt,.vtt,.ass,.ssa,.ttml,.xml,.txt,${PICTURE_FILES}`}
            multiple
            onFiles={takeIn}
          />
        </section>
        {arriving.length > 0 && (
          <ul className="mt-4 space-y-2" aria-label="Arriving">
            {arriving.map((item) => (
              <li key={item.key} className="rounded border border-line bg-card p-3">
                {item.problem ? (
                  <div role="alert" className="flex items-start justify-between gap-3">
                    <p>
                      <b>{item.name}</b> was not taken. {item.problem}
                    </p>
                    <button
                      type="button"
                      aria-label="Close message"
                      className="text-dim hover:text-ink"
                      onClick={() => drop(item.key)}
                    >
                      <X size={16} />
                    </button>
                  </div>
                ) : (
                  <Progress
                    label={item.part < 1 ? item.name : `${item.name}: looking what it is`}
                    value={item.part}
                    onCancel={item.part < 1 ? item.transfer.cancel : undefined}
                  />
                )}
              </li>
            ))}
          </ul>
        )}
        {projects.isError && (
          <p role="alert" className="mt-6 text-clay">
            {projects.error.message}
          </p>
        )}
        <Queue />
        {list.length > 0 && (
          <section className="mt-8" aria-label="Projects">
            <div className="mb-3 flex items-center gap-3">
              <h2 className="font-bold">Projects</h2>
              {chosen.size > 0 && (
                <>
                  <Button kind="main" onClick={() => void attempt(deliverChosen())}>
                    Deliver {chosen.size} {chosen.size === 1 ? "project" : "projects"}
                  </Button>
                  <Button kind="quiet" onClick={() => setChosen(new Set())}>
                    Choose none
                  </Button>
                </>
              )}
              <div className="ml-auto w-56">
                <input
                  type="search"
                  aria-label="Search projects"
                  placeholder="Search"
                  dir="auto"
                  className={FIELD}
                  value={wanted}
                  onChange={(event) => setWanted(event.target.value)}
                />
              </div>
              <Select
                label="Sort projects"
                className="h-8 w-44 shrink-0"
                options={ORDERS}
                chosen={order}
                onChoose={(value) => {
                  localStorage.setItem(ORDER, value);
                  setOrder(value);
                }}
              />
            </div>
            {shown.length === 0 && (
              <p className="text-dim">No project has “{wanted}” in its name.</p>
            )}
            <ul className="grid grid-cols-3 gap-4 lg:grid-cols-4">
              {shown.map((card) => (
                <ProjectCard
                  key={card.id}
                  card={card}
                  chosen={chosen.has(card.id)}
                  onChoose={(on) => choose(card.id, on)}
                />
              ))}
            </ul>
          </section>
        )}
        <Browsers />
      </main>
    </div>
  );
}

/** A song is shown beside its cover. A cover that cannot be read is told of; the song is there all the same. */
async function showCover(projectId: number, file: File): Promise<void> {
  try {
    const body = await bringInPicture(file);
    const path = { project_id: projectId };
    await take(api.POST("/api/projects/{project_id}/cover", { params: { path }, body }));
  } catch (problem) {
    say(`${file.name} was not taken. ${(problem as Problem).message}`, "wrong");
  }
}

function ThemeButton() {
  const [now, setNow] = useState(theme());
  return (
    <button
      type="button"
      className="ml-auto inline-flex items-center gap-2 rounded px-2 py-1 text-dim hover:bg-tint hover:text-ink"
      onClick={() => setNow(turnTheme())}
    >
      {now === "evening" ? <Sun size={15} /> : <Moon size={15} />}
      {now === "evening" ? "Daylight" : "Evening"}
    </button>
  );
}
