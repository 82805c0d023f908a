"use client";

import { proxy, type Remote } from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Job } from "@/core/document/schema";
import { timeZoneOfJob } from "@/core/document/place";
import type { Quantiles } from "@/core/applications/test-run/inference/quantiles";
import type { Found } from "@/core/applications/test-run/inference/calibrate";
import type { Applied } from "@/core/applications/test-run/report/applied";
import type { Reach } from "@/core/applications/test-run/inference/reach";
import { NOTHING_SAID, type RunConditions } from "@/core/applications/test-run/site/conditions";
import type { Mapping } from "@/core/applications/test-run/log/recognise";
import type { Reading } from "@/core/applications/test-run/log/readings";
import type { ForecastSnapshot } from "@/core/applications/test-run/report/record";
import type { ViewAnswer } from "@/core/applications/test-run/report/view";
import type { Imported, Preview, TestRunWorker } from "@/workers/test-run.worker";
import { askWorker, createWorkerClient, type WorkerClient } from "./worker-client";

/** Long enough that a forecast does not begin at every letter, or at every reading of a burst. */
const SETTLE_MS = 350;
/** Least time between two forecasts while readings stream in, ms: within a second of a reading, and not all the time. */
const PACE_MS = 900;

const newWorker = () => new Worker(new URL("../../workers/test-run.worker.ts", import.meta.url), { type: "module" });
const askOnce = <P extends Promise<unknown>>(question: (remote: Remote<TestRunWorker>) => P) =>
  askWorker<TestRunWorker, P>(newWorker, question);

export interface TestRunDesk {
  answer: ViewAnswer | null;
  /** Answers to the asked what-ifs, in their order, of the same particles as `answer`. */
  whatIfs: Quantiles[];
  /** What to set to last until the wished time; null until it is known. */
  reach: Reach | null;
  /** Whether a forecast is being made, and how far the sampler has come. */
  busy: boolean;
  done: number;
  /** Whether the answer is the settled one. */
  settled: boolean;
  fault: string | null;
  /** Adds readings to the log that is held. */
  add(list: Reading[]): void;
  /** Fetches the log anew: after an import, a correction, a deletion. */
  reload(): void;
  /** What the job would be with some findings in it. */
  applied(taken: readonly Found[]): Promise<Applied | null>;
  snapshots(): Promise<ForecastSnapshot[]>;
}

/** The log of a test run and its forecast, beside the page: first a quick one, then a settled one, anew after each reading. */
export function useTestRunDesk(
  testRunId: string | null,
  { job, conditions }: { job: Job; conditions: RunConditions | null },
  asked: readonly string[],
  until = "",
): TestRunDesk {
  const [answer, setAnswer] = useState<ViewAnswer | null>(null);
  const [whatIfs, setWhatIfs] = useState<Quantiles[]>([]);
  const [reach, setReach] = useState<Reach | null>(null);
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState(0);
  const [settled, setSettled] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [version, setVersion] = useState(0);
  const client = useRef<WorkerClient<TestRunWorker> | null>(null);
  const opened = useRef<string | null>(null);
  const wanted = useRef<{ job: Job; conditions: RunConditions; fresh: boolean } | null>(null);
  const running = useRef(false);
  const latest = useRef({ job, conditions: conditions ?? NOTHING_SAID, asked });
  useEffect(() => {
    latest.current = { job, conditions: conditions ?? NOTHING_SAID, asked };
  }, [job, conditions, asked]);

  const run = useCallback(async () => {
    const mine = client.current;
    if (!mine || running.current) return;
    running.current = true;
    setBusy(true);
    const progress = proxy((share: number) => setDone(share));
    try {
      while (wanted.current && client.current === mine) {
        const { job: onJob, conditions: said, fresh } = wanted.current;
        wanted.current = null;
        const begun = performance.now();
        // Readings may come as fast as they like: settling waits until they rest.
        for (const effort of fresh ? (["first", "settled"] as const) : (["next", "settled"] as const)) {
          const made = await mine.call((remote) =>
            remote.view({ job: onJob, conditions: said, effort, fresh: effort === "first" }, progress),
          );
          if (client.current !== mine) return;
          // The first is shown as soon as it is there; later ones come with their what-ifs, so that all say the same.
          if (made && effort === "first") setAnswer(made);
          const texts = latest.current.asked;
          const under =
            made?.ok && texts.length > 0
              ? await mine.call((remote) => remote.whatIf([...texts], timeZoneOfJob(onJob)))
              : [];
          if (client.current !== mine) return;
          if (made) setAnswer(made);
          setWhatIfs(under);
          setDone(0);
          setSettled(effort === "settled");
          setFault(null);
          if (wanted.current || !made?.ok) break;
        }
        if (wanted.current)
          await new Promise((resolve) => setTimeout(resolve, Math.max(0, PACE_MS - (performance.now() - begun))));
      }
    } catch (error) {
      if (client.current === mine) setFault((error as Error).message);
    } finally {
      if (client.current === mine) {
        running.current = false;
        setBusy(false);
        setDone(0);
      }
    }
  }, []);
  const ask = useCallback(
    (fresh: boolean) => {
      if (opened.current === null) return;
      wanted.current = {
        job: latest.current.job,
        conditions: latest.current.conditions,
        fresh: fresh || (wanted.current?.fresh ?? false),
      };
      void run();
    },
    [run],
  );

  useEffect(() => {
    if (!testRunId) return;
    const worker = createWorkerClient<TestRunWorker>(newWorker);
    client.current = worker;
    opened.current = null;
    running.current = false;
    wanted.current = null;
    const begin = async () => {
      setAnswer(null);
      setWhatIfs([]);
      setSettled(false);
      setFault(null);
      setBusy(true);
      try {
        await worker.call((remote) => remote.open(testRunId));
        if (client.current !== worker) return;
        opened.current = testRunId;
        ask(true);
      } catch (error) {
        if (client.current !== worker) return;
        setFault((error as Error).message);
        setBusy(false);
      }
    };
    void begin();
    return () => {
      client.current = null;
      opened.current = null;
      worker.terminate();
    };
  }, [testRunId, version, ask]);

  // Another document, or another answer about the day, is another prior: the forecast begins afresh once the typing rests.
  // What has to be set is worked out last: once the forecast is settled, and anew for another time.
  useEffect(() => {
    const mine = client.current;
    setReach(null);
    if (!settled || until === "" || !mine) return;
    void mine
      .call((remote) => remote.reach(until, timeZoneOfJob(latest.current.job)))
      .then((found) => {
        if (client.current === mine) setReach(found);
      })
      .catch(() => null);
  }, [settled, until, answer]);

  const first = useRef(true);
  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    const wait = setTimeout(() => ask(true), SETTLE_MS);
    return () => clearTimeout(wait);
  }, [job, conditions, ask]);
  const add = useCallback(
    (list: Reading[]) => {
      const worker = client.current;
      if (!worker || opened.current === null) return;
      worker
        .call((remote) => remote.add(list))
        .then(
          () => ask(false),
          (error: Error) => setFault(error.message),
        );
    },
    [ask],
  );
  const reload = useCallback(() => setVersion((n) => n + 1), []);
  const applied = useCallback(
    async (taken: readonly Found[]) => {
      const mine = client.current;
      if (!mine || !answer?.ok) return null;
      return mine.call((remote) => remote.applied(latest.current.job, [...taken], answer.view.toReserve));
    },
    [answer],
  );
  const snapshots = useCallback(async () => {
    if (!testRunId) return [];
    return askOnce(async (remote) => {
      await remote.open(testRunId);
      return remote.snapshots(latest.current.job, latest.current.conditions);
    });
  }, [testRunId]);
  return {
    answer: testRunId ? answer : null,
    whatIfs,
    reach,
    busy,
    done,
    settled,
    fault,
    add,
    reload,
    applied,
    snapshots,
  };
}

/** The view of a test run that is not the one on the page. */
export const askView = (testRunId: string, job: Job, conditions: RunConditions | null): Promise<ViewAnswer | null> =>
  askOnce(async (remote) => {
    await remote.open(testRunId);
    const question = { job, conditions: conditions ?? NOTHING_SAID, effort: "beside", fresh: true } as const;
    return remote.view(
      question,
      proxy(() => undefined),
    );
  });

/** What a file would be read as. */
export const askPreview = (file: File, timeZone: string, mapping?: Mapping): Promise<Preview> =>
  askOnce((remote) => remote.preview(file, timeZone, mapping));

/** Imports a file, with its progress; `stop` ends it and nothing of it is kept. */
export function askImport(
  testRunId: string,
  file: File,
  timeZone: string,
  mapping: Mapping | null,
  onProgress: (share: number) => void,
): { answer: Promise<Imported | null>; stop(): void } {
  let stopped = false;
  const onShare = proxy((share: number) => {
    if (!stopped) onProgress(share);
    return !stopped;
  });
  return {
    answer: askOnce((remote) => remote.importFile(testRunId, file, timeZone, mapping, onShare)),
    stop: () => {
      stopped = true;
    },
  };
}
