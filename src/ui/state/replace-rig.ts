import type { Rig } from "@/core/document/schema";
import type { SheetStore } from "./sheet-store";

/**
 * Puts a whole document in place of the one on the sheet; undo brings the old one back. With `keepRecord` what was found,
 * measured and signed at the system stays: another design does not undo what happened.
 */
export function replaceRig(store: SheetStore, next: Rig, keepRecord = false): void {
  const { handover } = store.getState().rig;
  store.getState().change((rig) => {
    for (const key of Object.keys(rig)) delete (rig as unknown as Record<string, unknown>)[key];
    Object.assign(rig, next, keepRecord ? { handover } : {});
  });
}
