import { call, json } from "@/contract/client";
import { nothing } from "@/contract/common";
import {
  importReport,
  madePart,
  savedPart,
  shelfParts,
  updatedJobs,
  usingJobs,
  type ShelfPart,
} from "@/contract/parts";
import type { ShelfEntry, ShelfKindKey } from "@/core/applications/parts/shelf";

/** Parts of a kind on the shelf; throws with a message to show, as do the others here. */
export const findParts = (kind: ShelfKindKey, query: string) =>
  call(shelfParts, `/api/parts?kind=${kind}&q=${encodeURIComponent(query)}`);

export const partsByIds = async (ids: string[]) => (await call(shelfParts, `/api/parts?ids=${ids.join(",")}`)).parts;

export const addPart = (entry: ShelfEntry) => call(madePart, "/api/parts", json("POST", { entry }));

export const savePart = ({ id, revision, entry }: ShelfPart) =>
  call(savedPart, `/api/parts/${id}`, json("PUT", { revision, entry }));

export const removePart = (id: string) => call(nothing, `/api/parts/${id}`, { method: "DELETE" });
export const restorePart = (id: string) => call(nothing, `/api/parts/${id}/restore`, { method: "POST" });

export const usesOf = async (id: string) => (await call(usingJobs, `/api/parts/${id}/uses`)).jobs;

export const updateUsing = async (id: string, jobs: { id: string; revision: number }[]) =>
  (await call(updatedJobs, `/api/parts/${id}/uses`, json("POST", { jobs }))).updated;

export const importShelf = (text: string) =>
  call(importReport, "/api/parts/import", { method: "POST", headers: { "content-type": "text/csv" }, body: text });
