import { useEffect } from "react";

/** Does something now, every so many ms, and as soon as the browser says that there is reception. What it throws waits for the next time. */
export function useAgain(work: () => Promise<void>, everyMs: number): void {
  useEffect(() => {
    const again = () => void work().catch(() => undefined);
    again();
    const every = setInterval(again, everyMs);
    window.addEventListener("online", again);
    return () => {
      clearInterval(every);
      window.removeEventListener("online", again);
    };
  }, [work, everyMs]);
}
