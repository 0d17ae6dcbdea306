/** Libraries searched side by side for something to be seen over captions. */
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Film, Image, X } from "lucide-react";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { api, type Cue, type Problem, type Schemas, takeAs } from "../api/client";
import { textOf } from "../drafts/draft";
import { focusPage } from "../focus/page";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { fetchFound, smallUrl, useLooking } from "./looking";

type Found = Schemas["Found"];
type Library = Schemas["LibraryView"];

/** How long typing rests before it is searched for. */
const RESTS_MS = 250;

/** Open while something is looked for. */
export function LibraryDialog() {
  const cues = useLooking((state) => state.cues);
  return cues && <Looking cues={cues} />;
}

/** What the captions say is searched for first. */
function Looking({ cues }: { cues: readonly Cue[] }) {
  const [typed, setTyped] = useState(cues.map(textOf).join(" "));
  const tiles = useRef<HTMLDivElement>(null);
  /** Whether what is shown is what was asked for. */
  const settled = () => typed === text && !tiles.current?.querySelector("[aria-busy=true]");
  const onClose = () => useLooking.setState({ cues: null });
  const text = useRested(typed);
  const { data } = useQuery({
    queryKey: ["libraries"],
    queryFn: () => takeAs<Library[]>(api.GET("/api/libraries")),
  });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            focusPage();
          }}
          className="fixed top-1/2 left-1/2 z-50 flex h-[600px] max-h-[92vh] w-[760px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg border border-line bg-page shadow-xl"
        >
          <header className="flex items-center gap-3 border-b border-line px-5 py-3">
            <Dialog.Title className="shrink-0 font-bold">Something to be seen</Dialog.Title>
            <input
              type="search"
              aria-label="Search for"
              placeholder="A word that names it"
              className="h-8 min-w-0 flex-1 rounded border border-line bg-card px-2"
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
              onFocus={(event) => event.target.select()}
              onKeyDown={(event) => {
                // Enter takes the likeliest, the arrow goes on to all.
                const first = tiles.current?.querySelector<HTMLButtonElement>("li button");
                if (event.key === "Enter") settled() && first?.click();
                else if (event.key === "ArrowDown") first?.focus();
                else return;
                event.preventDefault();
              }}
            />
            <Dialog.Close aria-label="Close" className="rounded p-1 text-dim hover:text-ink">
              <X size={16} />
            </Dialog.Close>
          </header>
          <div ref={tiles} className="min-h-0 flex-1 space-y-4 overflow-y-auto px-5 py-3">
            {data?.map((one) => (
              <Shelf
                key={one.name}
                library={one}
                text={text}
                onChoose={(found) => {
                  onClose();
                  fetchFound(
                    one.name,
                    found,
                    cues.map((cue) => cue.id),
                  );
                }}
                onAll={() => setTyped("")}
              />
            ))}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Shelf(props: {
  library: Library;
  text: string;
  onChoose: (found: Found) => void;
  onAll: () => void;
}) {
  const { library, text, onChoose, onAll } = props;
  const { data, error, isFetching, hasNextPage, fetchNextPage, refetch } = useInfiniteQuery({
    queryKey: ["library", library.name, text],
    retry: false,
    initialPageParam: 0,
    getNextPageParam: (last: Schemas["FoundPage"]) => last.next_page ?? undefined,
    queryFn: ({ pageParam }) =>
      takeAs<Schemas["FoundPage"]>(
        api.GET("/api/libraries/{library}/items", {
          params: {
            path: { library: library.name },
            query: { text, kinds: ["film", "picture"], page: pageParam },
          },
        }),
      ),
  });
  const found = data?.pages.flatMap((page) => page.found) ?? [];
  return (
    <section aria-label={library.title} aria-busy={isFetching}>
      <h3 className="mb-1.5 text-small font-bold text-dim">{library.title}</h3>
      {error ? (
        <p role="alert" className="flex items-center gap-2">
          {(error as unknown as Problem).message}
          <Button onClick={() => void refetch()}>Try again</Button>
        </p>
      ) : found.length ? (
        <ul className="grid grid-cols-5 gap-x-3 gap-y-2.5">
          {found.map((one) => (
            <li key={one.ref} className="min-w-0">
              <Tile library={library.name} found={one} onChoose={() => onChoose(one)} />
            </li>
          ))}
        </ul>
      ) : isFetching ? (
        <p className="text-dim">Looking …</p>
      ) : (
        <p className="flex items-center gap-2 text-dim">
          {text ? "Nothing here is called that." : "There is nothing here yet."}
          {text && <Button onClick={onAll}>Show all</Button>}
        </p>
      )}
      {hasNextPage && (
        <Button className="mt-2" onClick={() => void fetchNextPage()}>
          More
        </Button>
      )}
    </section>
  );
}

function Tile({
  library,
  found,
  onChoose,
}: {
  library: string;
  found: Found;
  onChoose: () => void;
}) {
  const [plain, setPlain] = useState(false);
  const Icon = found.kind === "film" ? Film : Image;
  const about = [found.maker, found.licence].filter(Boolean).join(" · ");
  return (
    <button
      type="button"
      className="group block w-full text-left"
      aria-label={`See ${found.name}${about ? `, ${about}` : ""}`}
      onClick={onChoose}
    >
      <span className="relative grid h-[104px] place-items-center overflow-hidden rounded border border-line bg-tint group-hover:border-chalk">
        {plain ? (
          <Icon size={20} className="text-dim" />
        ) : (
          <img
            src={smallUrl(library, found.ref)}
            alt=""
            loading="lazy"
            className="max-h-[102px] max-w-full"
            onError={() => setPlain(true)}
          />
        )}
        {found.length_us > 0 && (
          <span className="tabular absolute right-1 bottom-1 rounded bg-black/60 px-1 text-small text-white">
            {clock(found.length_us)}
          </span>
        )}
      </span>
      <span className="mt-0.5 line-clamp-2 leading-tight">{found.name}</span>
      {about && <span className="line-clamp-2 text-small text-dim">{about}</span>}
    </button>
  );
}

/** A value once it has stayed the same for a moment. */
function useRested(value: string): string {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), RESTS_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}
