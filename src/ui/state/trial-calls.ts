import { call, json, send } from "@/contract/client";
import { nothing } from "@/contract/common";
import {
  addedReadings,
  changedReading,
  foundMapping,
  listedTestRuns,
  oneTestRun,
  probesAnswer,
  readingHistory,
  resumedSource,
  startedSource,
  storedReadings,
  testRunDetail,
  type ListedTestRun,
  type ReadingVersion,
  type SentReading,
  type Source,
  type StoredReading,
  type TestRunChange,
  type TestRunDetail,
} from "@/contract/test-runs";
import type { Mapping } from "@/core/applications/test-run/log/recognise";
import type { Probes } from "@/core/applications/test-run/simulator/simulator";

export const fetchTrials = async (rigId: string): Promise<ListedTestRun[]> =>
  (await call(listedTestRuns, `/api/rigs/${rigId}/trials`)).trials;
export const fetchAllTrials = async (): Promise<ListedTestRun[]> => (await call(listedTestRuns, "/api/trials")).trials;
/** A test run as it is stored. An instrument that ran when the server went down is taken up again by whoever looks first. */
export async function fetchTrial(id: string): Promise<TestRunDetail> {
  const detail = await call(testRunDetail, `/api/trials/${id}`);
  const { source, finishedMs } = detail.trial;
  if (!source || finishedMs !== null || detail.running) return detail;
  return { ...detail, ...(await call(resumedSource, `/api/trials/${id}/source/resume`, { method: "POST" })) };
}

export const startTrial = async (rigId: string, name: string, id: string, startedAt?: number): Promise<ListedTestRun> =>
  (await call(oneTestRun, `/api/rigs/${rigId}/trials`, json("POST", { name, id, startedAt }))).trial;

export const changeTrial = async (id: string, change: TestRunChange): Promise<ListedTestRun> =>
  (await call(oneTestRun, `/api/trials/${id}`, json("PUT", change))).trial;

export const deleteTrial = (id: string): Promise<null> => call(nothing, `/api/trials/${id}`, { method: "DELETE" });
export const restoreTrial = (id: string): Promise<null> =>
  call(nothing, `/api/trials/${id}/restore`, { method: "POST" });

export const sendReadings = (trialId: string, readings: SentReading[]): Promise<{ added: number }> =>
  call(addedReadings, `/api/trials/${trialId}/readings`, json("POST", { readings }));

export const fetchReadings = async (trialId: string, limit = 60, deleted = false): Promise<StoredReading[]> =>
  (await call(storedReadings, `/api/trials/${trialId}/readings?limit=${limit}${deleted ? "&deleted=1" : ""}`)).readings;

export const changeReading = (
  trialId: string,
  { id, version }: StoredReading,
  change: "delete" | "restore" | SentReading,
): Promise<{ version: number }> =>
  call(
    changedReading,
    `/api/trials/${trialId}/readings/${id}`,
    json("PUT", typeof change === "string" ? { version, change } : { version, reading: change }),
  );

export const fetchHistory = async (trialId: string, id: string): Promise<ReadingVersion[]> =>
  (await call(readingHistory, `/api/trials/${trialId}/readings/${id}`)).history;

export const startSource = (trialId: string, source: Source): Promise<{ running: Source }> =>
  call(startedSource, `/api/trials/${trialId}/source`, json("POST", source));
export const stopSource = (trialId: string): Promise<null> =>
  call(nothing, `/api/trials/${trialId}/source`, { method: "DELETE" });
export const fetchProbes = async (trialId: string): Promise<Probes | null> =>
  (await call(probesAnswer, `/api/trials/${trialId}/source`)).probes;

/** Keeps a photo; the answer has no body. */
export const sendPhoto = async (trialId: string, id: string, photo: Blob): Promise<void> => {
  await send(`/api/trials/${trialId}/photos/${id}`, {
    method: "PUT",
    body: photo,
    headers: { "content-type": photo.type },
  });
};

export const dropImport = (trialId: string, importId: string): Promise<null> =>
  call(nothing, `/api/trials/${trialId}/imports/${importId}`, { method: "DELETE" });

export const keptMapping = async (header: string): Promise<Mapping | null> =>
  (await call(foundMapping, "/api/log-mappings", json("POST", { header }))).mapping;
export const keepMapping = (header: string, mapping: Mapping): Promise<null> =>
  call(nothing, "/api/log-mappings", json("PUT", { header, mapping }));
