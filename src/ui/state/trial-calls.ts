import type { Mapping } from "@/core/applications/test-run/log/recognise";
import type { FaultKey, Probes, SimulatorTruth } from "@/core/applications/test-run/simulator/simulator";
import type { Column, Reading } from "@/core/applications/test-run/log/readings";
import type { Outcome, ForecastSnapshot } from "@/core/applications/test-run/report/record";
import { json, messageOf } from "./server-calls";

export type TrialSource =
  | { kind: "stand-in"; seed: number; faults: FaultKey[]; every: number; startShare?: number; speed: number }
  | { kind: "file"; path: string }
  | { kind: "signal-k"; url: string };

export interface ListedTrial {
  id: string;
  rigId: string;
  name: string;
  kind: string;
  startedMs: number;
  finishedMs: number | null;
  source: TrialSource | null;
  truth: SimulatorTruth | null;
  promises: ForecastSnapshot[];
  outcome: Outcome | null;
  readings: number;
}

export interface StoredReading {
  id: string;
  timeMs: number;
  values: Partial<Record<Column, number>>;
  note: string | null;
  photoId: string | null;
  version: number;
  deleted: boolean;
}

export interface ReadingVersion {
  version: number;
  timeMs: number;
  values: StoredReading["values"];
  note: string | null;
  deleted: boolean;
  changedMs: number;
}

export interface SentReading extends Reading {
  id: string;
  photoId?: string;
}

/** Calls the server and gives its answer; throws with a message to show. */
async function call<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(path, init);
  if (!response.ok) throw new Error(await messageOf(response));
  return (response.status === 204 ? null : await response.json()) as T;
}

export const fetchTrials = async (rigId: string): Promise<ListedTrial[]> =>
  (await call<{ trials: ListedTrial[] }>(`/api/rigs/${rigId}/trials`)).trials;
export const fetchAllTrials = async (): Promise<ListedTrial[]> =>
  (await call<{ trials: ListedTrial[] }>("/api/trials")).trials;

export interface TrialDetail {
  trial: ListedTrial;
  running: TrialSource | null;
  imports: { id: string; fileName: string; rows: number; createdMs: number }[];
}
export const fetchTrial = (id: string): Promise<TrialDetail> => call(`/api/trials/${id}`);

export const startTrial = async (rigId: string, name: string, id: string, startedAt?: number): Promise<ListedTrial> =>
  (await call<{ trial: ListedTrial }>(`/api/rigs/${rigId}/trials`, json("POST", { name, id, startedAt }))).trial;

export const changeTrial = async (
  id: string,
  change: { name?: string; finished?: boolean; promises?: ForecastSnapshot[]; outcome?: Outcome | null },
): Promise<ListedTrial> => (await call<{ trial: ListedTrial }>(`/api/trials/${id}`, json("PUT", change))).trial;

export const deleteTrial = (id: string): Promise<null> => call(`/api/trials/${id}`, { method: "DELETE" });
export const restoreTrial = (id: string): Promise<null> => call(`/api/trials/${id}/restore`, { method: "POST" });

export const sendReadings = (trialId: string, readings: SentReading[]): Promise<{ added: number }> =>
  call(`/api/trials/${trialId}/readings`, json("POST", { readings }));

export const fetchReadings = async (trialId: string, limit = 60, deleted = false): Promise<StoredReading[]> =>
  (
    await call<{ readings: StoredReading[] }>(
      `/api/trials/${trialId}/readings?limit=${limit}${deleted ? "&deleted=1" : ""}`,
    )
  ).readings;

export const changeReading = (
  trialId: string,
  { id, version }: StoredReading,
  change: "delete" | "restore" | SentReading,
): Promise<{ version: number }> =>
  call(
    `/api/trials/${trialId}/readings/${id}`,
    json("PUT", typeof change === "string" ? { version, change } : { version, reading: change }),
  );

export const fetchHistory = async (trialId: string, id: string): Promise<ReadingVersion[]> =>
  (await call<{ history: ReadingVersion[] }>(`/api/trials/${trialId}/readings/${id}`)).history;

export const startSource = (trialId: string, source: TrialSource): Promise<{ running: TrialSource }> =>
  call(`/api/trials/${trialId}/source`, json("POST", source));
export const stopSource = (trialId: string): Promise<null> =>
  call(`/api/trials/${trialId}/source`, { method: "DELETE" });
export const fetchProbes = async (trialId: string): Promise<Probes | null> =>
  (await call<{ probes: Probes | null }>(`/api/trials/${trialId}/source`)).probes;

export const sendPhoto = (trialId: string, id: string, photo: Blob): Promise<null> =>
  call(`/api/trials/${trialId}/photos/${id}`, { method: "PUT", body: photo, headers: { "content-type": photo.type } });

export const dropImport = (trialId: string, importId: string): Promise<null> =>
  call(`/api/trials/${trialId}/imports/${importId}`, { method: "DELETE" });

export const keptMapping = async (header: string): Promise<Mapping | null> =>
  (await call<{ mapping: Mapping | null }>("/api/log-mappings", json("POST", { header }))).mapping;
export const keepMapping = (header: string, mapping: Mapping): Promise<null> =>
  call("/api/log-mappings", json("PUT", { header, mapping }));
