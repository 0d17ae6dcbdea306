/** The server's routes, typed from its own description; errors become Problem exceptions. */
import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Cue = Schemas["CueView"];
export type Word = Schemas["WordView"];
export type Project = Schemas["ProjectView"];
export type ProjectCard = Schemas["ProjectCard"];
export type Piece = Schemas["PieceView"];
export type Shape = Schemas["ShapeView"];
export type Framing = Schemas["Framing"];
export type Source = Schemas["SourceView"];
export type Job = Schemas["JobView"];
export type Delivery = Schemas["DeliveryView"];
export type EditAnswer = Schemas["EditAnswer"];
export type GlossaryApplied = Schemas["GlossaryApplied"];
export type Edit = Schemas["EditRequest"]["edit"];
export type ProjectStatus = Schemas["ProjectStatus"];
export type Scene = Schemas["SceneView"];
export type SceneCue = Schemas["SceneCueView"];
export type Track = Schemas["PathView"]["fill"];
export type Layer = Schemas["LayerView"];
export type Pace = Schemas["Pace"];
export type Faint = Schemas["FaintView"];
export type Check = Schemas["CheckView"];
export type Finish = Schemas["Finish"];
export type FinishView = Schemas["FinishView"];

/** An answer that says what went wrong and what to do. */
export class Problem extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

export const api = createClient<paths>();

/** Any error body as a Problem. The page of a browser that is not paired (any more) asks for the code. */
export function asProblem(body: unknown): Problem {
  if (body && typeof body === "object" && "message" in body && "code" in body) {
    if (body.code === "not_paired") location.reload();
    return new Problem(String(body.code), String(body.message));
  }
  return new Problem("error", "The server did not answer as expected. Try again.");
}

/** The data of an answer, or its Problem thrown. */
export async function take<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error } = await answer.catch(() => {
    throw new Problem("offline", "Mortiser does not answer. Is it still running?");
  });
  if (error !== undefined) throw asProblem(error);
  return data as T;
}

/** The same where values hold tuples: the client widens them to arrays, their description does not. */
export async function takeAs<T>(
  answer: Promise<{ data?: unknown; error?: unknown; response: Response }>,
): Promise<T> {
  return (await take(answer)) as T;
}

/** Send a file as the body of a request; its answer, or its Problem thrown. */
export async function sendFile<T>(url: string, file: Blob): Promise<T> {
  const headers = { "Content-Type": "application/octet-stream" };
  const answer = await fetch(url, { method: "POST", body: file, headers }).catch(() => {
    throw new Problem("offline", "Mortiser does not answer. Is it still running?");
  });
  const body: unknown = await answer.json().catch(() => null);
  if (!answer.ok) throw asProblem(body);
  return body as T;
}
