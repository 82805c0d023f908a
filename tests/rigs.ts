import { emptyRig, type Rig } from "@/core/rig/document";
import type { Origin, Quantity } from "@/core/rig/quantity";

/** An entered quantity, from the plate unless said otherwise. */
export const q = (value: number, origin: Origin = "plate"): Quantity => ({ value, origin });

export const HOUR = 3600;

interface RigParts {
  mains?: Rig["brief"]["mains"];
  brief?: Partial<Rig["brief"]>;
  unit?: Partial<Rig["units"][number]>;
  bank?: Partial<Rig["bank"]>;
  inverter?: Partial<Rig["inverter"]>;
  path?: Partial<Rig["path"]>;
}

/** A rig of one unit with some parts entered; everything else is assumed. */
export function rigOf({ mains = "230V50Hz", brief, unit, bank, inverter, path }: RigParts = {}): Rig {
  const rig = emptyRig("Test rig", mains);
  return {
    ...rig,
    brief: { ...rig.brief, ...brief },
    units: [{ ...rig.units[0]!, ...unit }],
    bank: { ...rig.bank, ...bank },
    inverter: { ...rig.inverter, ...inverter },
    path: { ...rig.path, ...path },
  };
}
