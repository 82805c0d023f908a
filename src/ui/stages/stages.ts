/** The stages that exist, in the order of work, with the key that opens each. */
export const STAGES = [
  { key: "brief", title: "Brief", press: "1" },
  { key: "unit", title: "Unit", press: "2" },
  { key: "start", title: "Start", press: "3" },
  { key: "wiring", title: "Wiring", press: "4" },
  { key: "bank", title: "Battery", press: "5" },
  { key: "charging", title: "Charging", press: "6" },
  { key: "day", title: "Day", press: "7" },
  { key: "test-run", title: "Test run", press: "8" },
  { key: "commissioning", title: "Commissioning", press: "p" },
  { key: "handover", title: "Handover", press: "9" },
  { key: "options", title: "Options", press: "o" },
  { key: "fault-finding", title: "Fault finding", press: "f" },
] as const;

export type StageKey = (typeof STAGES)[number]["key"];

export function isStage(text: string): text is StageKey {
  return STAGES.some((stage) => stage.key === text);
}

/** What the addresses of stages were before they had the names of the screens: links that somebody kept still lead there. */
const FORMER: Record<string, StageKey> = {
  path: "wiring",
  sources: "charging",
  prove: "commissioning",
  pack: "handover",
  faults: "fault-finding",
};

/** The stage that an address of before the stages had their present names leads to, or null. */
export const stageOfFormer = (text: string): StageKey | null => (Object.hasOwn(FORMER, text) ? FORMER[text]! : null);
