import { readFileSync } from "node:fs";
import { emptyJob, emptyPanel, readJobText, type Panel, type Job } from "@/core/document/schema";
export { jobOf, q, type JobParts } from "@/core/assessment/examples/systems";
import { q } from "@/core/assessment/examples/systems";

export const HOUR = 3600;

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
