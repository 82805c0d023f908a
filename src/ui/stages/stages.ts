/** The stages that exist, in the order of work, with the key that opens each. */
export const STAGES = [
  { key: "brief", title: "Brief", press: "1" },
  { key: "unit", title: "Unit", press: "2" },
  { key: "start", title: "Start", press: "3" },
  { key: "path", title: "Wiring", press: "4" },
  { key: "bank", title: "Battery", press: "5" },
  { key: "sources", title: "Charging", press: "6" },
  { key: "day", title: "Day", press: "7" },
  { key: "test-run", title: "Test run", press: "8" },
  { key: "prove", title: "Commissioning", press: "p" },
  { key: "pack", title: "Handover", press: "9" },
  { key: "options", title: "Options", press: "o" },
  { key: "faults", title: "Fault finding", press: "f" },
] as const;

export type StageKey = (typeof STAGES)[number]["key"];

export function isStage(text: string): text is StageKey {
  return STAGES.some((stage) => stage.key === text);
}
