import type { Rig } from "@/core/rig/document";
import type { SheetStore } from "./sheet-store";

/** Puts a whole document in place of the one on the sheet; undo brings the old one back. */
export function replaceRig(store: SheetStore, next: Rig): void {
  store.getState().change((rig) => {
    for (const key of Object.keys(rig)) delete (rig as unknown as Record<string, unknown>)[key];
    Object.assign(rig, next);
  });
}
