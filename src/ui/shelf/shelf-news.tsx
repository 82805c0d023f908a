"use client";

import { Button } from "antd";
import { putAt } from "@/core/document/compare";
import { shelfUses, updateUses } from "@/core/applications/parts/pick";
import { useReading, useSheetStore } from "../state/sheet-context";
import { partsByIds } from "./calls";
import { type ShelfPart } from "@/contract/parts";
import { useServerData } from "../state/server-data";
import { say } from "@/core/messages/say";

/** Says that a part of this system has changed on the shelf since it was picked, and leaves the choice. */
export function ShelfNews() {
  const { job } = useReading();
  const store = useSheetStore();
  const ids = [...new Set(shelfUses(job).map(({ id }) => id))].sort().join(",");
  // Without an answer nothing is known to have changed; the next look asks again.
  const { data: parts = [] } = useServerData<ShelfPart[]>(ids ? ["parts", ids] : null, () =>
    partsByIds(ids.split(",")),
  );
  const changed = parts.filter((part) =>
    shelfUses(job).some(({ id, revision }) => id === part.id && revision < part.revision),
  );
  if (changed.length === 0) return null;
  const update = (part: ShelfPart) =>
    store.getState().change((draft) => void Object.assign(draft, updateUses(store.getState().job, part.entry, part)));
  const keep = (part: ShelfPart) =>
    store.getState().change((draft) => {
      for (const { id, path, kind } of shelfUses(store.getState().job))
        if (id === part.id)
          putAt(draft, `${path}.${kind === "soft-starter" ? "softShelf" : "shelf"}`, { id, revision: part.revision });
    });
  return (
    <div className="shelf-news" role="status">
      {changed.map((part) => (
        <div key={part.id}>
          {say("interface.partChanged", { name: part.entry.name })}{" "}
          <Button size="small" type="primary" onClick={() => update(part)}>
            Bring it up to date
          </Button>{" "}
          <Button size="small" onClick={() => keep(part)}>
            Keep as it is
          </Button>
        </div>
      ))}
    </div>
  );
}
