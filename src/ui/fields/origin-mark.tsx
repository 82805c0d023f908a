import type { Origin } from "@/core/units/known";

export const ORIGIN_WORDS: Record<Origin, string> = {
  assumed: "assumed",
  plate: "plate or stated",
  fitted: "fitted to a run",
  measured: "measured",
};

/** Where a value comes from, as a shape: open ring, half disc, ring with a dot, full disc. */
export function OriginMark({ origin, size = 12 }: { origin: Origin; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true">
      <circle
        cx="6"
        cy="6"
        r="4.6"
        fill={origin === "measured" ? "currentColor" : "none"}
        stroke="currentColor"
        strokeWidth="1.3"
      />
      {origin === "plate" && <path d="M6 1.4a4.6 4.6 0 0 1 0 9.2z" fill="currentColor" />}
      {origin === "fitted" && <circle cx="6" cy="6" r="1.9" fill="currentColor" />}
    </svg>
  );
}
