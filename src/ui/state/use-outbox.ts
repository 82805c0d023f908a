"use client";

import { useCallback, useState } from "react";
import { useAgain } from "./use-again";
import { decide, flush, setAside, waiting, type Decision, type SetAside } from "./outbox";

export interface Outbox {
  /** Readings of this test run that wait for reception. */
  left: number;
  /** Readings that the server refused, kept until somebody says what to do with them. */
  aside: SetAside[];
  /** Sends what waits, now. */
  send(): Promise<void>;
  decide(key: number, what: Decision): Promise<void>;
}

/** A test run's outbox: sends every so many ms, and as soon as the browser says that there is reception. */
export function useOutbox(testRunId: string, everyMs: number): Outbox {
  const [left, setLeft] = useState(0);
  const [aside, setAsideNow] = useState<SetAside[]>([]);
  const send = useCallback(async () => {
    await flush();
    setLeft((await waiting(testRunId)).length);
    setAsideNow(await setAside(testRunId));
  }, [testRunId]);
  useAgain(send, everyMs);
  const settle = useCallback(
    async (key: number, what: Decision) => {
      await decide(key, what);
      await send();
    },
    [send],
  );
  return { left, aside, send, decide: settle };
}
