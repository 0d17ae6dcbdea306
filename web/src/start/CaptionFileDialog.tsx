/** The first captions of a file as they are read, and in which encoding: before it is taken in. */
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { sayWrong } from "../ui/notice";
import { Select } from "../ui/Select";
import { type FilePreview, previewOf, useCaptionFile } from "./captionFile";

const NAMES: Record<string, string> = {
  "utf-8": "Unicode (UTF-8)",
  cp1252: "Western (Windows-1252)",
  cp1250: "Central European (Windows-1250)",
  cp1251: "Cyrillic (Windows-1251)",
  cp1253: "Greek (Windows-1253)",
  cp1254: "Turkish (Windows-1254)",
  cp1255: "Hebrew (Windows-1255)",
  cp1256: "Arabic (Windows-1256)",
  cp1257: "Baltic (Windows-1257)",
  iso8859_2: "Central European (ISO 8859-2)",
  koi8_r: "Cyrillic (KOI8-R)",
  utf_16_le: "Unicode (UTF-16)",
  shift_jis: "Japanese (Shift JIS)",
  gb18030: "Chinese (GB 18030)",
  big5: "Chinese (Big5)",
  euc_kr: "Korean (EUC-KR)",
};

export function CaptionFileDialog() {
  const asked = useCaptionFile((state) => state.asked);
  return (
    <Dialog.Root open={asked !== null} onOpenChange={(open) => !open && asked?.answer(null)}>
      {asked && <Asking key={asked.file.name} {...asked} />}
    </Dialog.Root>
  );
}

function Asking(props: {
  file: File;
  preview: FilePreview;
  answer: (encoding: string | null) => void;
}) {
  const { file, answer } = props;
  const [preview, setPreview] = useState(props.preview);
  const { encoding, count, timed, first, notes } = preview;
  const codes = preview.encodings.includes(encoding)
    ? preview.encodings
    : [encoding, ...preview.encodings];
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
      <Dialog.Content
        aria-describedby={undefined}
        className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[min(560px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg border border-line bg-page p-5 shadow-xl"
      >
        <Dialog.Title className="truncate text-[16px] font-bold">{file.name}</Dialog.Title>
        <p className="mt-0.5 text-dim">
          {timed
            ? `${count} ${count === 1 ? "caption" : "captions"} with their times.`
            : `${count} lines without times: laid over the sound as a script.`}
        </p>
        <div className="mt-3 flex items-center gap-3">
          <span className="text-dim">Read as</span>
          <Select
            label="Encoding"
            className="w-64"
            options={codes.map((code) => ({ value: code, text: NAMES[code] ?? code }))}
            chosen={encoding}
            onChoose={(code) => void previewOf(file, code).then(setPreview).catch(sayWrong)}
          />
          {preview.guessed && <span className="text-small text-dim">a guess: check it</span>}
        </div>
        <ol className="mt-3 space-y-1 rounded border border-line bg-card p-3">
          {first.map((one, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: captions of a file have no other name
            <li key={index} className="flex gap-3">
              {one.start_us !== null && (
                <span className="tabular shrink-0 text-dim">{clock(one.start_us)}</span>
              )}
              <span dir="auto" className="min-w-0 flex-1">
                {one.text}
              </span>
            </li>
          ))}
        </ol>
        {notes.length > 0 && (
          <ul className="mt-2 list-disc pl-5 text-small text-dim">
            {notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        )}
        <div className="mt-4 flex gap-2">
          <Button kind="main" onClick={() => answer(encoding)}>
            Take it in
          </Button>
          <Button onClick={() => answer(null)}>Leave it</Button>
        </div>
      </Dialog.Content>
    </Dialog.Portal>
  );
}
