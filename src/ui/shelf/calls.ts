import type { ShelfEntry, ShelfKindKey } from "@/core/applications/parts/shelf";
import type { Summary } from "@/core/assessment/verdicts/summary";
import { json, messageOf } from "../state/server-calls";

export interface ShelfPart {
  id: string;
  revision: number;
  entry: ShelfEntry;
}

export interface UsingJob {
  id: string;
  revision: number;
  name: string;
  stale: boolean;
  now: Summary;
  then: Summary;
}

export interface ImportReport {
  added: number;
  changed: number;
  same: number;
  rows: number;
  skipped: { line: number; why: string }[];
  skippedCount: number;
  unknownColumns: string[];
}

async function ask<T>(address: string, init?: RequestInit): Promise<T> {
  const response = await fetch(address, init);
  if (!response.ok) throw new Error(await messageOf(response));
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Parts of a kind on the shelf; throws with a message to show, as do the others here. */
export const findParts = (kind: ShelfKindKey, query: string) =>
  ask<{ parts: ShelfPart[]; total: number }>(`/api/parts?kind=${kind}&q=${encodeURIComponent(query)}`);

export const partsByIds = async (ids: string[]) =>
  (await ask<{ parts: ShelfPart[] }>(`/api/parts?ids=${ids.join(",")}`)).parts;

export const addPart = (entry: ShelfEntry) => ask<{ id: string }>("/api/parts", json("POST", { entry }));

export const savePart = (part: ShelfPart) =>
  ask<{ revision: number }>(`/api/parts/${part.id}`, json("PUT", { revision: part.revision, entry: part.entry }));

export const removePart = (id: string) => ask<void>(`/api/parts/${id}`, { method: "DELETE" });
export const restorePart = (id: string) => ask<void>(`/api/parts/${id}/restore`, { method: "POST" });

export const usesOf = async (id: string) => (await ask<{ jobs: UsingJob[] }>(`/api/parts/${id}/uses`)).jobs;

export const updateUsing = async (id: string, jobs: { id: string; revision: number }[]) =>
  (await ask<{ updated: string[] }>(`/api/parts/${id}/uses`, json("POST", { jobs }))).updated;

export const importShelf = (text: string) =>
  ask<ImportReport>("/api/parts/import", { method: "POST", headers: { "content-type": "text/csv" }, body: text });
