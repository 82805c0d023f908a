import { constant, of, traced, type Term, type TracedValue } from "../../units/trace";
import type { System } from "../../models/system/system";
import type { UseRun } from "./use";

/** Energies of the battery in Wh, from the top of a full one down; together the full battery. */
export interface BankColumn {
  full: number;
  segments: {
    key: "uncharged" | "units" | "loads" | "losses" | "left" | "reserve" | "unreachable";
    energy: number;
    figure: TracedValue;
  }[];
  /** Wh that came in meanwhile: sun and other charging. */
  meanwhile: number;
  /** Wh more than there is above the reserve that the hours wanted would take; 0 where they are met. */
  missing: number;
}

type Segment = BankColumn["segments"][number];
type Key = Segment["key"];

/** Where a full battery goes in the hours wanted, by the run of the design day. `rest` is V over state of charge, in equal steps. */
export function bankColumnOf(system: System, rest: Float64Array, own: UseRun | null): BankColumn {
  const { bank, values } = system;
  const between = (upper: number, lower: number) => energyBetween(rest, bank.capacityAh, upper, lower);
  const storage = system.job.brief.stance === "storage";
  const wanted = storage ? values.plan.storageDays.value * 86_400 : values.brief.hoursWanted.value;
  const cutCharge = own?.cutOff && own.cause !== "empty" ? own.run.stateOfCharge[Math.max(0, own.run.steps - 1)]! : 0;
  const reserve = Math.max(cutCharge < bank.reserveSoc ? 0 : cutCharge, Math.min(bank.startSoc, bank.reserveSoc));
  const { sums, end } = drawnUntil(own, wanted, bank.startSoc, reserve);
  const start = Math.max(bank.startSoc, end);
  const fromBattery = between(start, end);
  const drawn = sums.units + sums.loads + sums.losses;
  // What came in meanwhile went straight into the loads: the battery gave the rest of each.
  const part = drawn > 0 ? fromBattery / drawn : 0;
  const span = (key: Key, name: string, upper: number, lower: number): Segment =>
    segment(key, name, between(upper, lower), {
      relation: "E = ∫ V × C ds",
      terms: () => [
        constant("s_1", "From state of charge", upper, "ratio", "of the run"),
        constant("s_2", "To state of charge", lower, "ratio", "of the run"),
        of("C", system.bankFigures.capacity),
      ],
      source: "open-circuit voltage times charge, stepped",
    });
  const taken = (key: "units" | "loads" | "losses", name: string, why: string): Segment =>
    segment(key, name, sums[key] * part, {
      relation: "E = E_k × p",
      terms: () => [
        constant("E_k", name, sums[key], "energy", why),
        constant("p", "Part that the battery gave", part, "ratio", "the rest came in meanwhile"),
      ],
      source: "coupled run of the design day",
    });
  return {
    full: between(1, 0),
    segments: [
      span("uncharged", "Not charged", 1, start),
      taken("units", "Air conditioner", "over the hours wanted, or to the reserve"),
      taken("loads", "Other loads", "over the hours wanted, or to the reserve"),
      taken("losses", "Losses", "inverter, its idle draw, cables, the cells"),
      span("left", "Left above the reserve", end, reserve),
      span("reserve", "Reserve", reserve, Math.min(reserve, cutCharge)),
      span("unreachable", "Below the cut-off", Math.min(reserve, cutCharge), 0),
    ],
    meanwhile: sums.meanwhile,
    missing: own && own.lasts < wanted && own.lasts > 0 ? (fromBattery * (wanted - own.lasts)) / own.lasts : 0,
  };
}

/** Wh between two states of charge: open-circuit voltage times charge. */
function energyBetween(rest: Float64Array, capacityAh: number, upper: number, lower: number): number {
  const pieces = rest.length;
  let sum = 0;
  for (let piece = Math.floor(lower * pieces); piece < pieces && piece / pieces < upper; piece++) {
    const covered = Math.min(upper, (piece + 1) / pieces) - Math.max(lower, piece / pieces);
    if (covered > 0) sum += covered * rest[piece]! * capacityAh;
  }
  return sum;
}

/** Wh drawn and taken in over the hours wanted, or until the run ends, and the state of charge then. */
function drawnUntil(own: UseRun | null, wanted: number, startSoc: number, reserve: number) {
  const sums = { units: 0, loads: 0, losses: 0, meanwhile: 0 };
  if (!own) return { sums, end: startSoc };
  const { run } = own;
  const last = Math.min(run.steps, Math.round(Math.min(wanted, own.lasts) / run.stepS));
  const hours = run.stepS / 3600;
  for (let k = 0; k < last; k++) {
    sums.units += run.unitPower[k]! * hours;
    sums.loads += run.loadPower[k]! * hours;
    sums.losses += run.lossPower[k]! * hours;
    sums.meanwhile += (run.solarUsed[k]! + run.enginePower[k]! + run.shorePower[k]! + run.generatorPower[k]!) * hours;
  }
  return { sums, end: last > 0 ? Math.min(1, Math.max(reserve, run.stateOfCharge[last - 1]!)) : startSoc };
}

function segment(
  key: Key,
  name: string,
  energy: number,
  working: { relation: string; terms: () => Term[]; source: string },
): Segment {
  const figure = traced({ key: `column.${key}`, name, dimension: "energy", value: Math.max(0, energy), ...working });
  return { key, energy: figure.value, figure };
}
