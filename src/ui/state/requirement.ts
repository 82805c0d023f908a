"use client";

import { produce } from "immer";
import { useCallback, useEffect, useRef } from "react";
import { create } from "zustand";
import { ApiError } from "@/contract/client";
import { usualRequirement, type Requirement } from "@/core/applications/options/target";
import type { Job } from "@/core/document/schema";
import { say } from "@/core/messages/say";
import { fetchRequirement, sendRequirement } from "./options-calls";

/** A job's requirement as this page has it, and why it could not be read or saved. */
interface Kept {
  requirement: Requirement | null;
  fault: string | null;
}

const SEND_AFTER_MS = 700;
const AGAIN_AFTER_MS = 5000;

const useKept = create<Record<string, Kept>>(() => ({}));
/** Jobs whose requirement was changed here and is not with the server yet, each with what sends it. */
const unsent = new Map<string, ReturnType<typeof setTimeout>>();

const keptOf = (id: string): Kept => useKept.getState()[id] ?? { requirement: null, fault: null };
const put = (id: string, change: Partial<Kept>) => useKept.setState({ [id]: { ...keptOf(id), ...change } });

function sendAfter(id: string, ms: number): void {
  clearTimeout(unsent.get(id));
  unsent.set(
    id,
    setTimeout(() => void send(id), ms),
  );
}

/**
 * Sends what was changed last. What the server refuses is not sent again before it is changed; a broken line is tried again, and
 * so is a session that has ended, since somebody may sign in again.
 */
async function send(id: string, keepalive = false): Promise<void> {
  clearTimeout(unsent.get(id));
  const { requirement } = keptOf(id);
  try {
    await sendRequirement(id, requirement!, keepalive);
    if (keptOf(id).requirement === requirement) unsent.delete(id);
    put(id, { fault: null });
  } catch (error) {
    put(id, { fault: say("interface.targetNotSaved", { reason: (error as Error).message }) });
    if (error instanceof ApiError && error.status < 500 && error.status !== 401) unsent.delete(id);
    else if (keptOf(id).requirement === requirement) sendAfter(id, AGAIN_AFTER_MS);
  }
}

if (typeof window !== "undefined")
  window.addEventListener("pagehide", () => {
    for (const id of unsent.keys()) void send(id, true);
  });

/** Reads a job's requirement from the server, or gives the usual one of the job where none was kept. */
async function read(id: string, job: Job): Promise<void> {
  try {
    const read = (await fetchRequirement(id)) ?? usualRequirement(job);
    if (unsent.has(id)) return;
    // The same object where nothing changed, so that a search stays that of this requirement.
    const { requirement } = keptOf(id);
    const same = JSON.stringify(read) === JSON.stringify(requirement);
    put(id, { requirement: same ? requirement : read, fault: null });
  } catch (error) {
    put(id, { fault: (error as Error).message });
  }
}

/**
 * A job's requirement. What is changed stays with the page until the server has it: it is sent shortly after, though the stage
 * be left meanwhile, at once where the page is left, and again where the line was broken.
 */
export function useRequirement(
  id: string,
  job: Job,
): Kept & { change(recipe: (requirement: Requirement) => void): void } {
  const kept = useKept((all) => all[id]);
  const first = useRef(job);
  useEffect(() => {
    if (!unsent.has(id)) void read(id, first.current);
  }, [id]);
  const change = useCallback(
    (recipe: (requirement: Requirement) => void) => {
      const { requirement } = keptOf(id);
      if (!requirement) return;
      put(id, { requirement: produce(requirement, (draft) => void recipe(draft)) });
      sendAfter(id, SEND_AFTER_MS);
    },
    [id],
  );
  return { requirement: kept?.requirement ?? null, fault: kept?.fault ?? null, change };
}
