import type { Job } from "../../document/schema";
import type { ResolvedQuantity, Quantity } from "../../units/known";
import { resolveJob } from "../../document/resolve";
import { jobOf, type Design } from "./design";
import { askedOf, type Asked } from "./targets";
import { tally, tripsOf } from "./trips";
import type { Requirement } from "./target";
import type { JobValues } from "../../document/resolved";

/** One assumption, and the system where it lies low and high. */
interface Assumption {
  key: string;
  name: string;
  how: string;
  /** Words of the low and the high end. */
  ends: [string, string];
  /** Whether it was measured already: then it turns nothing. */
  known: boolean;
  put(job: Job, high: boolean): Job;
}

/** What a choice comes to with one assumption at an end. */
export interface Turned {
  key: string;
  name: string;
  how: string;
  ends: { words: string; choice: number | null; share: number }[];
  /** Whether either end makes another design the choice. */
  turns: boolean;
}

const fitted = (value: number): Quantity => ({ value, origin: "fitted" });
const isKnown = ({ origin }: ResolvedQuantity) => origin === "measured" || origin === "fitted";

function skinUA({ cabin }: JobValues): number {
  if (cabin.heatLoss) return cabin.heatLoss.value;
  const [l, w, h] = [cabin.length.value, cabin.width.value, cabin.height.value];
  const glass = cabin.glassArea.value;
  return (
    cabin.roofU.value * l * w +
    cabin.floorU.value * l * w +
    cabin.wallU.value * Math.max(0, 2 * (l + w) * h - glass) +
    cabin.glassU.value * glass
  );
}

// oxlint-disable-next-line max-lines-per-function -- one assumption after another: a list, with no way through it
function assumptions(job: Job): Assumption[] {
  const values = resolveJob(job);
  const scaled = (known: ResolvedQuantity, high: boolean, by: [number, number]) =>
    fitted(known.value * by[high ? 1 : 0]);
  const list: Assumption[] = [
    {
      key: "heat",
      name: "Heat loss of the cabin",
      how: "a test run with the cabin's and the outdoor temperature read",
      ends: ["a quarter less", "a quarter more"],
      known: values.cabin.heatLoss !== undefined && isKnown(values.cabin.heatLoss),
      put: (r, high) => ({
        ...r,
        cabin: { ...r.cabin, heatLoss: fitted(skinUA(resolveJob(r)) * (high ? 1.25 : 0.75)) },
      }),
    },
    {
      key: "draw",
      name: "Running power of the unit",
      how: "a clamp on the battery cable while it runs",
      ends: ["a tenth less", "a tenth more"],
      known: values.units.every(({ runningCurrent, dcRunningCurrent }) =>
        [runningCurrent, dcRunningCurrent].some((known) => known && isKnown(known)),
      ),
      put: (r, high) => ({
        ...r,
        units: r.units.map((unit, i) => {
          const v = values.units[i]!;
          const by: [number, number] = [0.9, 1.1];
          if (unit.dcRunningCurrent) return { ...unit, dcRunningCurrent: scaled(v.dcRunningCurrent!, high, by) };
          return unit.runningCurrent
            ? { ...unit, runningCurrent: scaled(v.runningCurrent, high, by) }
            : { ...unit, ratedPower: scaled(v.ratedPower, high, by) };
        }),
      }),
    },
    {
      key: "loads",
      name: "Other loads",
      how: "an hour of the monitor with the unit off",
      ends: ["a third less", "half as much again"],
      known:
        job.brief.loads.length > 0 &&
        job.brief.loads.every(({ power }) => power && isKnown({ ...power } as ResolvedQuantity)),
      put: (r, high) => ({
        ...r,
        brief: {
          ...r.brief,
          loads: r.brief.loads.map((load, i) => ({
            ...load,
            power: fitted(values.loads[i]!.power.value * (high ? 1.5 : 0.67)),
          })),
        },
      }),
    },
    {
      key: "outdoors",
      name: "Outdoor temperature",
      how: "the season's days where it will stand",
      ends: ["2 K cooler", "2 K warmer"],
      known: false,
      put: (r, high) => {
        const { maxC, minC } = resolveJob(r).place;
        const by = high ? 2 : -2;
        return { ...r, place: { ...r.place, maxC: fitted(maxC.value + by), minC: fitted(minC.value + by) } };
      },
    },
    {
      key: "sun",
      name: "Clearness of the sky",
      how: "the panels' yield over a week",
      ends: ["a tenth duller", "a tenth clearer"],
      known: false,
      put: (r, high) => {
        const { clearness } = resolveJob(r).place;
        return { ...r, place: { ...r.place, clearness: fitted(Math.min(0.78, clearness.value * (high ? 1.1 : 0.9))) } };
      },
    },
    {
      key: "shade",
      name: "Light lost by the panels",
      how: "a look at noon and at four for what shades them",
      ends: ["a tenth less", "a fifth more"],
      known: isKnown(values.sources.systemFactor),
      put: (r, high) => ({
        ...r,
        sources: {
          ...r.sources,
          systemFactor: fitted(Math.min(1, values.sources.systemFactor.value * (high ? 0.8 : 1.1))),
        },
      }),
    },
    {
      key: "glass",
      name: "Sun through the glass",
      how: "the cabin's rise with blinds shut and the unit off",
      ends: ["a third less", "a third more"],
      known: isKnown(values.cabin.solarGain),
      put: (r, high) => ({
        ...r,
        cabin: {
          ...r.cabin,
          solarGain: fitted(Math.min(1, resolveJob(r).cabin.solarGain.value * (high ? 1.33 : 0.67))),
        },
      }),
    },
  ];
  return list.filter(({ key }) => key !== "loads" || job.brief.loads.length > 0);
}

interface Met {
  /** Whether every target is met, and the share of the target's own. */
  all: boolean;
  share: number;
}

/** Months of trips stay; what is entered for the place would otherwise hold in all of them: it is put month by month. */
function metBy(asked: readonly Asked[], requirement: Requirement, design: Design, put: (job: Job) => Job): Met {
  const shares = asked.map((target) => {
    const sum = { met: 0, days: 0 };
    const trips = tripsOf(target.job, requirement, "search", target);
    for (const month of new Set(trips.map((trip) => trip.month))) {
      const dated = put({ ...target.job, brief: { ...target.job.brief, month } });
      const own = tally(
        jobOf(dated, requirement, design),
        trips.filter((trip) => trip.month === month),
        target.tripDays,
      );
      sum.met += own.met;
      sum.days += own.days;
    }
    return sum.met / sum.days;
  });
  return { all: shares.every((share, i) => share >= asked[i]!.share), share: shares[0]! };
}

/**
 * Which assumption would turn the choice among designs, cheapest first: each at its low and high end, the rest as they
 * are. `stopped` is asked between runs; null where it said so.
 */
export function sensitivityOf(
  job: Job,
  requirement: Requirement,
  { candidates, chosen }: { candidates: readonly { index: number; design: Design }[]; chosen: number },
  onProgress: (done: number) => boolean | void = () => true,
): Turned[] | null {
  const list = assumptions(job).filter(({ known }) => !known);
  const asked = askedOf(job, requirement);
  const place = (index: number) => candidates.findIndex((one) => one.index === index);
  const turned: Turned[] = [];
  const of = list.length * 2;
  let at = 0;
  for (const { key, name, how, ends, put } of list) {
    const found: Turned["ends"] = [];
    for (const high of [false, true]) {
      let choice: number | null = null;
      let share = 0;
      for (const { index, design } of candidates) {
        const { all, share: own } = metBy(asked, requirement, design, (r) => put(r, high));
        if (index === chosen) share = own;
        if (choice === null && all) choice = index;
        // Cheaper ones that meet it, or the chosen and its dearer ones until one does.
        if (choice !== null && place(chosen) <= place(index)) break;
      }
      found.push({ words: ends[high ? 1 : 0], choice, share });
      if (onProgress(++at / of) === false) return null;
    }
    turned.push({ key, name, how, ends: found, turns: found.some(({ choice }) => choice !== chosen) });
  }
  const spread = ({ ends }: Turned) => Math.abs(ends[0]!.share - ends[1]!.share);
  return turned.sort((a, b) => Number(b.turns) - Number(a.turns) || spread(b) - spread(a));
}
