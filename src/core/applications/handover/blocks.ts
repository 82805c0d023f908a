/** A piece of a handover document: screen and print draw the same ones. */
export type Block =
  | { kind: "text"; text: string; small?: boolean }
  | { kind: "heading"; text: string }
  | { kind: "list"; items: string[]; mark: "dot" | "caution" | "stop" }
  | { kind: "table"; head: string[]; rows: string[][]; /** Columns of numbers. */ right: number[] }
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
