/** The stages that exist, in the order of work; their place is their key. */
export const STAGES = [
  { key: "brief", title: "Brief" },
  { key: "unit", title: "Unit" },
  { key: "start", title: "Start" },
  { key: "path", title: "Path" },
  { key: "bank", title: "Bank" },
  { key: "sources", title: "Sources" },
  { key: "day", title: "Day" },
  { key: "trial", title: "Trial" },
  { key: "options", title: "Options" },
] as const;

export type StageKey = (typeof STAGES)[number]["key"];

export function isStage(text: string): text is StageKey {
  return STAGES.some((stage) => stage.key === text);
}
