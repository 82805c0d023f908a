import { emptySpan, type Pattern, type PlanSpan, type Job } from "./schema";

const HOUR = 60;

/** A plan to start from: its name, what it is for, and the spans of its day. */
export interface ReadyPlan {
  key: string;
  name: string;
  note: string;
  spans(job: Job): PlanSpan[];
}

let counter = 0;
const at = (kind: PlanSpan["kind"], from: number, to: number): PlanSpan => {
  const minutes = (to - from) * HOUR;
  return emptySpan(kind, `span-${kind}-${from}-${to}-${++counter % 1000}`, Math.round((from % 24) * HOUR), minutes);
};
const cool = (from: number, to: number, setPointC?: number, mode: "auto" | "low" = "auto"): PlanSpan => ({
  ...(at("unit", from, to) as Extract<PlanSpan, { kind: "unit" }>),
  mode,
  ...(setPointC === undefined ? {} : { setPointC: { value: setPointC, origin: "plate" as const } }),
});
const people = (from: number, to: number, asleep = false): PlanSpan => ({
  ...(at("people", from, to) as Extract<PlanSpan, { kind: "people" }>),
  asleep,
});
const set = ({ brief }: Job) => brief.setPointC?.value ?? 24;

/** Plans to start from: whole days of people who live with a system. */
export const READY_PLANS: readonly ReadyPlan[] = [
  {
    key: "dinner-to-breakfast",
    name: "Dinner to breakfast",
    note: "cooled from seven in the evening to seven in the morning",
    spans: () => [cool(19, 31), people(18, 23), people(23, 31, true)],
  },
  {
    key: "pre-cool",
    name: "Pre-cool and sleep",
    note: "cold while the sun pays, then the low fan through the night",
    spans: (job) => [
      cool(16, 21, set(job) - 2),
      cool(21, 31, set(job) + 1, "low"),
      people(19, 23),
      people(23, 31, true),
    ],
  },
  {
    key: "on-board",
    name: "Dog or medicine on board",
    note: "noon to four, shut up in the sun",
    spans: () => [cool(12, 16), people(18, 23), people(23, 32, true)],
  },
  {
    key: "beach",
    name: "All day by the beach",
    note: "cooled from nine to six, doors going, awning out",
    spans: () => [
      cool(9, 18),
      people(9, 18),
      { ...(at("open", 12, 13) as Extract<PlanSpan, { kind: "open" }>) },
      { ...(at("shade", 9, 18) as Extract<PlanSpan, { kind: "shade" }>), over: "side" },
      people(18, 23),
      people(23, 33, true),
    ],
  },
  {
    key: "road",
    name: "Road day",
    note: "driving from nine to one, cooled on the road and for the evening",
    spans: () => [
      at("driving", 9, 13),
      cool(11, 13),
      cool(20, 24),
      people(9, 13),
      people(19, 23),
      people(23, 32, true),
    ],
  },
  {
    key: "managed",
    name: "Managed day of small steps",
    note: "shade first, a warm set point by day, an hour's cold before bed, low fan to sleep",
    spans: (job) => [
      { ...(at("shade", 10, 19) as Extract<PlanSpan, { kind: "shade" }>), over: "side" },
      cool(13, 19, set(job) + 3, "low"),
      cool(21, 23, set(job)),
      cool(23, 28, set(job) + 2, "low"),
      people(18, 23),
      people(23, 31, true),
    ],
  },
];

/** The evening and night that is assumed where no plan is made: from nine, or from noon for a short siesta's hours. */
export function usualPattern(hoursWanted: number): Pattern {
  const minutes = Math.round(Math.min(1440, Math.max(15, hoursWanted / 60)));
  const from = minutes <= 6 * 60 ? 12 * 60 : 21 * 60;
  return {
    id: "usual",
    name: "Typical day",
    spans: [
      { ...emptySpan("unit", "usual-unit", from, minutes) },
      { ...emptySpan("people", "usual-awake", 19 * 60, 4 * 60) },
      {
        ...(emptySpan("people", "usual-asleep", 23 * 60, 8 * 60) as Extract<PlanSpan, { kind: "people" }>),
        asleep: true,
      },
    ],
  };
}

/** The plan's days: those made, or the usual one. */
export function patternsOf(job: Pick<Job, "plan">, hoursWanted: number): Pattern[] {
  return job.plan.patterns.length > 0 ? job.plan.patterns : [usualPattern(hoursWanted)];
}

/** Index of the pattern of a weekday, 0 for Monday. */
export function patternIndexOn(job: Job, patterns: Pattern[], weekday: number): number {
  const wanted = job.plan.week[weekday];
  const index = wanted === undefined ? 0 : patterns.findIndex(({ id }) => id === wanted);
  return index < 0 ? 0 : index;
}

/** The main use of a day: the longest run of spans with a unit on that touch or overlap, as minutes from its midnight. */
export function mainUse(pattern: Pattern): { from: number; minutes: number } | null {
  const spans = pattern.spans
    .filter((span) => span.kind === "unit" && span.mode !== "fan")
    .map(({ from, minutes }) => ({ from, to: from + minutes }))
    .sort((a, b) => a.from - b.from);
  const joined: { from: number; to: number }[] = [];
  for (const span of spans) {
    const last = joined[joined.length - 1];
    if (last && span.from <= last.to) last.to = Math.max(last.to, span.to);
    else joined.push({ ...span });
  }
  // What runs past midnight goes on into what begins at it.
  const first = joined[0];
  const last = joined[joined.length - 1];
  if (joined.length > 1 && first && last && last.to >= 1440 + first.from) {
    last.to = Math.max(last.to, 1440 + first.to);
    joined.shift();
  }
  const longest = joined.reduce<{ from: number; to: number } | null>(
    (best, one) => (!best || one.to - one.from > best.to - best.from ? one : best),
    null,
  );
  return longest && { from: longest.from, minutes: Math.min(1440, longest.to - longest.from) };
}

/** Minutes of the day written as people write them: 22:30, 2230, 22, 7.30, 10 pm; null where it is no time. */
export function parseTimeOfDay(text: string): number | null {
  const found = /^\s*(\d{1,2})(?:[:.h ]?(\d{2}))?\s*(am|pm|a|p)?\s*$/i.exec(text);
  if (!found) return null;
  let hour = Number(found[1]);
  const minute = Number(found[2] ?? 0);
  const half = found[3]?.[0]?.toLowerCase();
  if (half && (hour < 1 || hour > 12)) return null;
  if (half === "p" && hour < 12) hour += 12;
  if (half === "a" && hour === 12) hour = 0;
  if (hour === 24 && minute === 0) hour = 0;
  return hour > 23 || minute > 59 ? null : hour * 60 + minute;
}

/** A span of the day as people write it: `20:00-07:00`, `8 pm to 7 am`; null where it is none. */
export function parseSpan(text: string): { from: number; minutes: number } | null {
  const found = /^\s*(.+?)\s*(?:-|–|to|until)\s*(.+?)\s*$/i.exec(text);
  if (!found || !/[:.hap]/i.test(text)) return null;
  const [from, to] = [parseTimeOfDay(found[1]!), parseTimeOfDay(found[2]!)];
  return from === null || to === null ? null : { from, minutes: minutesBetween(from, to) };
}

/** Minutes of a day, or past it, as 22:30. */
export function timeWords(minutes: number): string {
  const at = ((Math.round(minutes) % 1440) + 1440) % 1440;
  return `${String(Math.floor(at / 60)).padStart(2, "0")}:${String(at % 60).padStart(2, "0")}`;
}

/** How long a span from one time of day to another lasts: past midnight where the end comes first, a whole day where they are one. */
export function minutesBetween(from: number, to: number): number {
  return ((to - from + 1439 + 1440) % 1440) + 1;
}
