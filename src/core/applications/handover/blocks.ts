import type { Job } from "../../document/schema";

/** A photo of a commissioning step or an inspection point, and what it is of. */
export interface StepPhoto {
  id: string;
  caption: string;
}

/** A piece of a handover document: screen and print draw the same ones. */
export type Block =
  | { kind: "text"; text: string; small?: boolean }
  | { kind: "heading"; text: string }
  | { kind: "list"; items: string[]; mark: "dot" | "caution" | "stop" }
  | { kind: "table"; head: string[]; rows: string[][]; /** Columns of numbers. */ right: number[] }
  | { kind: "photos"; photos: StepPhoto[] }
  | { kind: "plan" }
  | { kind: "working"; text: string };

export const text = (words: string, small = false): Block => ({
  kind: "text",
  text: words,
  ...(small ? { small } : {}),
});
export const heading = (words: string): Block => ({ kind: "heading", text: words });
export const table = (head: string[], rows: string[][], right: number[] = []): Block[] =>
  rows.length > 0 ? [{ kind: "table", head, rows, right }] : [];
export const list = (items: string[], mark: "dot" | "caution" | "stop" = "dot"): Block[] =>
  items.length > 0 ? [{ kind: "list", items, mark }] : [];

/** The photos of some steps, in their order, each under the step's title. */
export function photosOf(steps: readonly { key: string; title: string }[], answers: Job["handover"]["steps"]): Block[] {
  const photos = steps.flatMap(({ key, title }) => {
    const ids = answers.find(({ step }) => step === key)?.photos ?? [];
    return ids.map((id, at) => ({ id, caption: ids.length > 1 ? `${title}, ${at + 1} of ${ids.length}` : title }));
  });
  return photos.length > 0 ? [{ kind: "photos", photos }] : [];
}
