import { useEffect } from "react";
import { readJob, type Job } from "@/core/document/schema";
import { fetchJob, sendJob } from "./server-calls";
import type { SheetStore } from "./sheet-store";

const SETTLE_MS = 700;
const RETRY_MS = 4000;
/** A draft older than this belongs to a window that is gone: a living one renews it or saves. */
const ORPHAN_MS = 10_000;

interface Draft {
  revision: number;
  job: Job;
  base: Job;
  at: number;
}

const draftKey = (id: string) => `chillbank.draft.${id}`;

function keepDraft(store: SheetStore): void {
  const { id, job, base } = store.getState();
  try {
    const draft: Draft = { revision: base.revision, job, base: base.job, at: Date.now() };
    localStorage.setItem(draftKey(id), JSON.stringify(draft));
  } catch {
    // Storage is full or refused: the server copy is then the only one, which the save state shows.
  }
}

function dropDraft(id: string): void {
  try {
    localStorage.removeItem(draftKey(id));
  } catch {
    // As above.
  }
}

/** Edits that a window closed or crashed with before they reached the server. */
function orphanDraft(id: string): Draft | null {
  try {
    const draft = JSON.parse(localStorage.getItem(draftKey(id)) ?? "null") as Draft | null;
    if (!draft || Date.now() - draft.at < ORPHAN_MS) return null;
    const [job, base] = [readJob(draft.job), readJob(draft.base)];
    return job.ok && base.ok ? { ...draft, job: job.job, base: base.job } : null;
  } catch {
    return null;
  }
}

/** Saves the edits of a sheet while it is open, as `startAutosave` does. */
export function useAutosave(store: SheetStore, onRecovered: () => void): void {
  useEffect(() => startAutosave(store, onRecovered), [store, onRecovered]);
}

/**
 * Saves edits shortly after they settle, tries again while the server is away, keeps a draft meanwhile, and stops to
 * ask where another window saved first. `onRecovered` is told of edits brought back from a draft. Returns what ends it.
 */
export function startAutosave(store: SheetStore, onRecovered: () => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;
  let ended = false;
  const dirty = () => store.getState().job !== store.getState().base.job;
  const later = (ms: number) => {
    clearTimeout(timer);
    if (!ended) timer = setTimeout(() => void send(), ms);
  };

  async function send(): Promise<void> {
    const { id, job, base, elsewhere, setSave, setElsewhere, stored } = store.getState();
    if (sending || elsewhere || !dirty()) return;
    sending = true;
    keepDraft(store);
    setSave({ kind: "saving" });
    const answer = await sendJob(id, base.revision, job);
    sending = false;
    switch (answer.outcome) {
      case "saved":
        stored(answer.revision, job);
        dropDraft(id);
        if (dirty()) {
          store.getState().setSave({ kind: "unsaved" });
          later(SETTLE_MS);
        }
        break;
      case "elsewhere":
        setElsewhere({ revision: answer.revision, job: answer.job });
        setSave({ kind: "conflict" });
        break;
      case "gone":
        setSave({ kind: "gone" });
        break;
      case "refused":
      case "signed-out":
      case "unreachable":
        // Undone meanwhile to what is stored: there is nothing left to be sorry for.
        if (!dirty()) {
          setSave({ kind: "saved" });
          dropDraft(id);
          break;
        }
        if (answer.outcome !== "refused") {
          const why = answer.outcome === "signed-out" ? "you are signed out" : "no connection, trying again";
          setSave({ kind: "offline", reason: `Not saved: ${why}` });
          later(RETRY_MS);
          break;
        }
        setSave({ kind: "offline", reason: `Not saved: ${answer.message}` });
        break;
    }
  }

  const unsubscribe = store.subscribe((state, before) => {
    if (state.job === before.job) return;
    if (state.job === state.base.job) {
      // Undone back to what is stored: there is nothing to send.
      if (state.save.kind === "unsaved" || state.save.kind === "offline") state.setSave({ kind: "saved" });
      dropDraft(state.id);
      return;
    }
    if (state.save.kind === "saved") state.setSave({ kind: "unsaved" });
    keepDraft(store);
    later(SETTLE_MS);
  });

  const lookElsewhere = async () => {
    const { id, base } = store.getState();
    const current = await fetchJob(id);
    if (ended || !current || current.revision <= store.getState().base.revision || base !== store.getState().base)
      return;
    // Nothing of one's own to lose: take over what is there. Otherwise ask.
    if (!dirty()) store.getState().settle(current.job, current);
    else store.getState().setElsewhere(current);
    store.getState().setSave(dirty() ? { kind: "conflict" } : { kind: "saved" });
  };
  const onVisible = () => {
    if (document.visibilityState === "visible") void lookElsewhere();
  };
  const onLeave = (event: BeforeUnloadEvent) => {
    if (dirty()) event.preventDefault();
  };
  const onHide = () => {
    const { id, job, base, elsewhere } = store.getState();
    if (dirty() && !sending && !elsewhere) {
      keepDraft(store);
      void sendJob(id, base.revision, job, true).then((answer) => {
        if (answer.outcome !== "saved") return;
        store.getState().stored(answer.revision, job);
        dropDraft(id);
      });
    }
  };
  const onOnline = () => later(0);
  document.addEventListener("visibilitychange", onVisible);
  window.addEventListener("focus", onVisible);
  window.addEventListener("beforeunload", onLeave);
  window.addEventListener("pagehide", onHide);
  window.addEventListener("online", onOnline);

  const draft = orphanDraft(store.getState().id);
  if (draft) {
    const { base, change, setElsewhere, setSave } = store.getState();
    if (draft.revision === base.revision) {
      change((job) => Object.assign(job, draft.job));
      onRecovered();
    } else {
      const current = base;
      store.setState({ base: { revision: draft.revision, job: draft.base }, job: draft.job });
      setElsewhere(current);
      setSave({ kind: "conflict" });
    }
  }
  return () => {
    ended = true;
    clearTimeout(timer);
    unsubscribe();
    onHide();
    document.removeEventListener("visibilitychange", onVisible);
    window.removeEventListener("focus", onVisible);
    window.removeEventListener("beforeunload", onLeave);
    window.removeEventListener("pagehide", onHide);
    window.removeEventListener("online", onOnline);
  };
}
