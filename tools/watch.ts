/* Watches a server as a visitor would meet it. */

interface Watched {
  /** Where it says whether it is ready. */
  address: string;
  everyMs?: number;
  /** How long one answer may take, ms: its own deadline is two seconds. */
  patienceMs?: number;
  /** Looks in a row that have to fail. */
  failures?: number;
}

/** Whether a server is stuck: it answers nothing, or says that it is the server and not the database. */
async function isStuck(address: string, patienceMs: number): Promise<boolean> {
  try {
    const answer = await fetch(address, { signal: AbortSignal.timeout(patienceMs) });
    const { server } = (await answer.json()) as { server?: unknown };
    return server !== true;
  } catch {
    return true;
  }
}

/** Calls `stuck` once where a server was found stuck several times in a row. Returns what ends the watch. */
export function watch(
  { address, everyMs = 5000, patienceMs = 4000, failures = 3 }: Watched,
  stuck: () => void,
): () => void {
  let inARow = 0;
  let timer: NodeJS.Timeout | undefined;
  let over = false;
  const look = async () => {
    inARow = (await isStuck(address, patienceMs)) ? inARow + 1 : 0;
    if (over) return;
    if (inARow >= failures) {
      over = true;
      stuck();
    } else timer = setTimeout(() => void look(), everyMs).unref();
  };
  timer = setTimeout(() => void look(), everyMs).unref();
  return () => {
    over = true;
    clearTimeout(timer);
  };
}
