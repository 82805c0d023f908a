import { readFileSync } from "node:fs";
import {
  emptyJob,
  emptyPanel,
  readJobText,
  type Panel,
  type Part,
  type PartOf,
  type Job,
} from "@/core/document/schema";
import type { Origin, Quantity } from "@/core/units/known";

/** An entered quantity, from the plate unless said otherwise. */
export const q = (value: number, origin: Origin = "plate"): Quantity => ({ value, origin });

export const HOUR = 3600;

interface JobParts {
  mains?: Job["brief"]["mains"];
  brief?: Partial<Job["brief"]>;
  /** Highest temperature of a design day of its own, degC; without it there is no place and 35 °C stands. */
  outdoorC?: number;
  unit?: Partial<Job["units"][number]>;
  bank?: Partial<Job["bank"]>;
  inverter?: Partial<Job["inverter"]>;
  wiring?: Partial<Job["wiring"]>;
  /** What the one cable and the one fuse between battery and inverter are; `fuse: null` for none. */
  cable?: Partial<PartOf<"cable">>;
  fuse?: Partial<PartOf<"fuse">> | null;
}

/** A system of one unit with some parts entered; everything else is assumed. */
export function jobOf({
  mains = "230V50Hz",
  brief,
  outdoorC,
  unit,
  bank,
  inverter,
  wiring,
  cable,
  fuse,
}: JobParts = {}): Job {
  const job = emptyJob("Test job", mains);
  const main = job.wiring.main.flatMap((part): Part[] => {
    if (part.kind === "cable") return [{ ...part, ...cable }];
    if (part.kind === "fuse") return fuse === null ? [] : [{ ...part, ...fuse }];
    return [part];
  });
  return {
    ...job,
    brief: { ...job.brief, ...brief },
    weather: {
      ...job.weather,
      kind: outdoorC === undefined ? "usual" : "own",
      ...(outdoorC === undefined ? {} : { highestC: q(outdoorC) }),
    },
    units: [{ ...job.units[0]!, ...unit }],
    bank: { ...job.bank, ...bank },
    inverter: { ...job.inverter, ...inverter },
    wiring: { ...job.wiring, main, ...wiring },
  };
}

/** A job of the demo: `demoJob("2-marionette")`. */
export function demoJob(file: string): Job {
  const read = readJobText(readFileSync(`db/demo/${file}.json`, "utf8"));
  if (!read.ok) throw new Error(file);
  return read.job;
}

/** A van at Faro in July with one unit, fixed-speed unless said, on 300 Ah of LFP at 12 V: what the test run's tests log. */
export function testRunVan(unit: Partial<Job["units"][number]> = {}, setC = 23): Job {
  const job = emptyJob("Van", "230V50Hz");
  return {
    ...job,
    weather: { ...job.weather, kind: "usual" },
    brief: { ...job.brief, month: 7, setPointC: q(setC), loads: [] },
    place: { ...job.place, listed: "faro" },
    units: [{ ...job.units[0]!, ratedPower: q(700), coolingPower: q(2000), ...unit }],
    bank: { ...job.bank, blockVoltage: q(12.8), series: q(1), parallel: q(3), capacityAh: q(100) },
    inverter: { ...job.inverter, rating: q(2000) },
  };
}

/** Flat panels of so many W each, by their plate. */
export const roofPanels = (powerW: number, count: number): Panel => ({
  ...emptyPanel("p", "Roof"),
  power: q(powerW),
  count: q(count),
});

/** Dry country at 34° N, as the desert's reports come from, on a day between two temperatures, degC. */
export const desert = (maxC: number, minC: number, dewPointC = 10): Job["place"] => ({
  listed: null,
  timeZone: "America/Phoenix",
  latitude: q(33.7),
  longitude: q(-112),
  maxC: q(maxC),
  minC: q(minC),
  dewPointC: q(dewPointC),
  clearness: q(0.68),
});

/** Mean of a record's line from one step to before another. */
export const meanOf = (line: Float32Array, from: number, to: number): number =>
  line.slice(from, to).reduce((sum, value) => sum + value, 0) / (to - from);

/** A job as version 7 of the document said it; for one without loads and measured duty cycles. */
export function asVersion7({ wiring, startAids, units, bank, handover: { document, ...handover }, ...job }: Job) {
  const { startSoc, ...battery } = bank;
  return {
    ...job,
    bank: { ...battery, startShare: startSoc },
    format: "chillbank-document",
    version: 7,
    path: wiring,
    cures: startAids,
    units: units.map(({ startAid, ...unit }) => ({ ...unit, cure: startAid })),
    handover: { ...handover, pack: document },
  };
}
