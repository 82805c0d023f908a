/** What the run time of a job is based on, by the brief. */
export const STANCE_WORDS = {
  expected: "expected duty",
  "never-resting": "compressor always on",
  storage: "days of storage, no sun",
} as const;
