import { readFileSync } from "node:fs";
import { emptyRig, readRigText, type Part, type PartOf, type Rig } from "@/core/document/schema";
import type { Origin, Quantity } from "@/core/units/known";

/** An entered quantity, from the plate unless said otherwise. */
export const q = (value: number, origin: Origin = "plate"): Quantity => ({ value, origin });

export const HOUR = 3600;

interface RigParts {
  mains?: Rig["brief"]["mains"];
  brief?: Partial<Rig["brief"]>;
  /** Highest temperature of a design day of its own, degC; without it there is no place and 35 °C stands. */
  outdoorC?: number;
  unit?: Partial<Rig["units"][number]>;
  bank?: Partial<Rig["bank"]>;
  inverter?: Partial<Rig["inverter"]>;
  path?: Partial<Rig["path"]>;
  /** What the one cable and the one fuse between battery and inverter are; `fuse: null` for none. */
  cable?: Partial<PartOf<"cable">>;
  fuse?: Partial<PartOf<"fuse">> | null;
}

/** A system of one unit with some parts entered; everything else is assumed. */
export function rigOf({
  mains = "230V50Hz",
  brief,
  outdoorC,
  unit,
  bank,
  inverter,
  path,
  cable,
  fuse,
}: RigParts = {}): Rig {
  const rig = emptyRig("Test rig", mains);
  const main = rig.path.main.flatMap((part): Part[] => {
    if (part.kind === "cable") return [{ ...part, ...cable }];
    if (part.kind === "fuse") return fuse === null ? [] : [{ ...part, ...fuse }];
    return [part];
  });
  return {
    ...rig,
    brief: { ...rig.brief, ...brief },
    weather: {
      ...rig.weather,
      kind: outdoorC === undefined ? "usual" : "own",
      ...(outdoorC === undefined ? {} : { highestC: q(outdoorC) }),
    },
    units: [{ ...rig.units[0]!, ...unit }],
    bank: { ...rig.bank, ...bank },
    inverter: { ...rig.inverter, ...inverter },
    path: { ...rig.path, main, ...path },
  };
}

/** A job of the demo: `demoRig("2-marionette")`. */
export function demoRig(file: string): Rig {
  const read = readRigText(readFileSync(`db/demo/${file}.json`, "utf8"));
  if (!read.ok) throw new Error(file);
  return read.rig;
}

/** A van at Faro in July with one unit, fixed-speed unless said, on 300 Ah of LFP at 12 V: what the test run's tests log. */
export function trialVan(unit: Partial<Rig["units"][number]> = {}, setC = 23): Rig {
  const rig = emptyRig("Van", "230V50Hz");
  return {
    ...rig,
    weather: { ...rig.weather, kind: "usual" },
    brief: { ...rig.brief, month: 7, setPointC: q(setC), loads: [] },
    place: { ...rig.place, listed: "faro" },
    units: [{ ...rig.units[0]!, ratedPower: q(700), coolingPower: q(2000), ...unit }],
    bank: { ...rig.bank, blockVoltage: q(12.8), series: q(1), parallel: q(3), capacityAh: q(100) },
    inverter: { ...rig.inverter, rating: q(2000) },
  };
}
