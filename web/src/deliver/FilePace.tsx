/** How captions in files are grouped and broken: as on the picture, or at a pace of their own. */
import { useQuery } from "@tanstack/react-query";
import { api, type Pace, type Piece, take } from "../api/client";
import { edit } from "../state/commands";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";

const AS_PICTURE = "";

export function FilePace({ piece }: { piece: Piece }) {
  const paces = useQuery({ queryKey: ["paces"], queryFn: () => take(api.GET("/api/paces")) });
  const own = piece.file_pace;
  const same = (pace: Pace) => JSON.stringify(pace) === JSON.stringify(own);
  const known = own ? paces.data?.find((one) => same(one.pace)) : undefined;
  const options = [
    { value: AS_PICTURE, text: "as on the picture" },
    ...(paces.data ?? []).map((one) => ({ value: one.name, text: paceText(one.name, one.pace) })),
    ...(own && !known ? [{ value: "*", text: paceText("a pace of its own", own) }] : []),
  ];
  return (
    <TraySection
      title="Captions in files"
      about={
        own
          ? `At most ${own.lines} ${own.lines === 1 ? "line" : "lines"} of ${own.line_chars} characters, whatever the picture shows.`
          : "Grouped and broken as the picture shows them."
      }
    >
      <Select
        label="Captions in files"
        options={options}
        chosen={own ? (known?.name ?? "*") : AS_PICTURE}
        onChoose={(name) => {
          const found = paces.data?.find((one) => one.name === name);
          if (name === "*") return;
          void edit({ kind: "set_file_pace", piece_id: piece.id, pace: found?.pace ?? null });
        }}
      />
    </TraySection>
  );
}

const paceText = (name: string, pace: Pace): string =>
  `${name}: ${pace.lines} × ${pace.line_chars} characters`;
