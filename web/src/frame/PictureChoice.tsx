/** One of the user's own pictures: brought in from a file, or one that was used before. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { api, type Schemas, sendFile, takeAs } from "../api/client";
import { pictureUrl } from "../playback/stamps";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { attempt } from "../ui/notice";

export type OwnPicture = Schemas["OwnPicture"];
export const PICTURE_FILES = ".png,.jpg,.jpeg,.webp,.gif,.svg";
const QUERY = ["pictures"];
const SIDE = 52;

export function bringInPicture(file: File): Promise<OwnPicture> {
  return sendFile<OwnPicture>(`/api/pictures?name=${encodeURIComponent(file.name)}`, file);
}

export function PictureChoice(props: {
  chosen: OwnPicture | null | undefined;
  onChoose: (picture: OwnPicture) => void;
}) {
  const { chosen, onChoose } = props;
  const client = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const { data } = useQuery({
    queryKey: QUERY,
    queryFn: () => takeAs<OwnPicture[]>(api.GET("/api/pictures")),
  });
  const bringIn = async (one: File) => {
    onChoose(await bringInPicture(one));
    await client.invalidateQueries({ queryKey: QUERY });
  };
  return (
    <div className="space-y-1.5">
      <div className="flex items-center gap-2">
        <Button onClick={() => file.current?.click()}>Choose a file</Button>
        <span className="min-w-0 flex-1 truncate text-dim">
          {chosen?.name || "PNG, JPEG, WebP, GIF or SVG"}
        </span>
        <FilePick
          ref={file}
          label="A picture's file"
          accept={PICTURE_FILES}
          onFiles={([one]) => one && void attempt(bringIn(one))}
        />
      </div>
      {data && data.length > 0 && (
        <ul aria-label="Pictures used before" className="flex flex-wrap gap-1.5">
          {data.slice(0, 10).map((one) => (
            <li key={one.digest}>
              <button
                type="button"
                aria-pressed={one.digest === chosen?.digest}
                aria-label={one.name || "Picture"}
                className="grid place-items-center rounded border border-line bg-tint aria-pressed:outline-2 aria-pressed:outline-chalk"
                style={{ width: SIDE, height: SIDE }}
                onClick={() => onChoose(one)}
              >
                <img src={small(one)} alt="" className="max-h-full max-w-full" />
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** Twice as large as it is shown, for fine screens. */
function small(one: OwnPicture): string {
  const share = (2 * SIDE) / Math.max(one.width, one.height);
  const side = (length: number) => Math.max(1, Math.round(length * share));
  return pictureUrl(one.digest, side(one.width), side(one.height));
}
