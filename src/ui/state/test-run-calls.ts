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
import { say } from "@/core/messages/say";
import type { Mapping } from "@/core/applications/test-run/log/recognise";
import type { Probes } from "@/core/applications/test-run/simulator/simulator";

export const fetchTestRuns = async (jobId: string): Promise<ListedTestRun[]> =>
  (await call(listedTestRuns, `/api/jobs/${jobId}/test-runs`)).testRuns;
export const fetchAllTestRuns = async (): Promise<ListedTestRun[]> =>
  (await call(listedTestRuns, "/api/test-runs")).testRuns;
export const fetchTestRun = (id: string): Promise<TestRunDetail> => call(testRunDetail, `/api/test-runs/${id}`);

export const startTestRun = async (
  jobId: string,
  name: string,
  id: string,
  startedAt?: number,
): Promise<ListedTestRun> =>
  (await call(oneTestRun, `/api/jobs/${jobId}/test-runs`, json("POST", { name, id, startedAt }))).testRun;

export const changeTestRun = async (id: string, change: TestRunChange): Promise<ListedTestRun> =>
  (await call(oneTestRun, `/api/test-runs/${id}`, json("PUT", change))).testRun;

export const deleteTestRun = (id: string): Promise<null> => call(nothing, `/api/test-runs/${id}`, { method: "DELETE" });
export const restoreTestRun = (id: string): Promise<null> =>
  call(nothing, `/api/test-runs/${id}/restore`, { method: "POST" });

/** Sends readings; `sentAtMs`: this device's clock, which the server compares with its own. */
export const sendReadings = (
  testRunId: string,
  readings: SentReading[],
  sentAtMs?: number,
): Promise<{ added: number; late: string[] }> =>
  call(
    addedReadings,
    `/api/test-runs/${testRunId}/readings`,
    json("POST", sentAtMs === undefined ? { readings } : { readings, sentAtMs }),
  );

export const fetchReadings = async (testRunId: string, limit = 60, deleted = false): Promise<StoredReading[]> =>
  (await call(storedReadings, `/api/test-runs/${testRunId}/readings?limit=${limit}${deleted ? "&deleted=1" : ""}`))
    .readings;

/** Takes back a setting that was just sent: deletes its note, or its reading's, which can be brought back. */
export async function takeBackSetting(testRunId: string, readingId: string, words: string): Promise<void> {
  const reading = (await fetchReadings(testRunId, 50)).find(({ id }) => id === readingId);
  if (!reading) throw new Error(say("interface.settingNotFound"));
  const { values, timeMs, photoId } = reading;
  // What was noted beside the setting stays.
  const note = (reading.note ?? "").replace(words, "").replace(/^; /, "");
  const empty = Object.keys(values).length === 0 && !photoId && note === "";
  await changeReading(
    testRunId,
    reading,
    empty ? "delete" : { id: readingId, timeMs, values, ...(note ? { note } : {}), ...(photoId ? { photoId } : {}) },
  );
}

export const changeReading = (
  testRunId: string,
  { id, version }: StoredReading,
  change: "delete" | "restore" | SentReading,
): Promise<{ version: number }> =>
  call(
    changedReading,
    `/api/test-runs/${testRunId}/readings/${id}`,
    json("PUT", typeof change === "string" ? { version, change } : { version, reading: change }),
  );

export const fetchHistory = async (testRunId: string, id: string): Promise<ReadingVersion[]> =>
  (await call(readingHistory, `/api/test-runs/${testRunId}/readings/${id}`)).history;

export const startSource = (testRunId: string, source: Source): Promise<{ running: Source }> =>
  call(startedSource, `/api/test-runs/${testRunId}/source`, json("POST", source));
export const stopSource = (testRunId: string): Promise<null> =>
  call(nothing, `/api/test-runs/${testRunId}/source`, { method: "DELETE" });
export const fetchProbes = async (testRunId: string): Promise<Probes | null> =>
  (await call(probesAnswer, `/api/test-runs/${testRunId}/source`)).probes;

/** Keeps a photo; the answer has no body. */
export const sendPhoto = async (testRunId: string, id: string, photo: Blob): Promise<void> => {
  await send(`/api/test-runs/${testRunId}/photos/${id}`, {
    method: "PUT",
    body: photo,
    headers: { "content-type": photo.type },
  });
};

export const dropImport = (testRunId: string, importId: string): Promise<null> =>
  call(nothing, `/api/test-runs/${testRunId}/imports/${importId}`, { method: "DELETE" });

export const keptMapping = async (header: string): Promise<Mapping | null> =>
  (await call(foundMapping, "/api/log-mappings", json("POST", { header }))).mapping;
export const keepMapping = (header: string, mapping: Mapping): Promise<null> =>
  call(nothing, "/api/log-mappings", json("PUT", { header, mapping }));
