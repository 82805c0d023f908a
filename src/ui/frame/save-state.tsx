"use client";

import { useOnline } from "../state/keep-page";
import { useSheet } from "../state/sheet-context";
import { useWorkerFailure } from "../state/worker-client";

/** Whether what is on the screen is on the server, and whether it is still being calculated. */
export function SaveNote() {
  const save = useSheet((state) => state.save);
  const revision = useSheet((state) => state.base.revision);
  const online = useOnline();
  const text = {
    saved: online ? `Saved, revision ${revision}` : `No connection: revision ${revision}, as last seen`,
    unsaved: "Not saved yet",
    saving: "Saving …",
    offline: save.kind === "offline" ? save.reason : "",
    conflict: "Changed elsewhere",
    gone: "Deleted elsewhere",
  }[save.kind];
  const stopped = useWorkerFailure();
  const wrong = save.kind === "offline" || save.kind === "conflict" || save.kind === "gone";
  return (
    <span role="status" data-save={save.kind} className={wrong ? "heat" : undefined}>
      {text}
      {stopped && <strong className="heat"> {stopped}</strong>}
    </span>
  );
}
