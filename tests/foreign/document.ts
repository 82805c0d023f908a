import { emptyJob, type Job } from "@/core/document/schema";
import { q } from "../jobs";

/** What an installer can tell of a foreign run's system. W, V and Ah of one battery. */
export interface ForeignPlate {
  name: string;
  american: boolean;
  month: number;
  listed: string;
  cabin: { kind: Job["cabin"]["kind"]; insulation: Job["cabin"]["insulation"] };
  setC: number;
  houseW: number;
  fixed: boolean;
  coolingW: number;
  ratedW: number;
  band: number;
  lead: boolean;
  parallel: number;
  singleAh: number;
  panelsW: number;
}

/** The document that an installer has of a foreign run: plates and tape, nothing of what is hidden. */
export function plateDocument(plate: ForeignPlate): Job {
  const { fixed, lead, panelsW } = plate;
  const empty = emptyJob(plate.name, plate.american ? "120V60Hz" : "230V50Hz");
  const load = { id: "dc", name: "Fridge and lights", side: "dc" as const, leg: "L1" as const, atStart: true };
  const panel = { id: "p", name: "Panel", mount: "flat" as const, shadeByHour: [] };
  return {
    ...empty,
    brief: {
      ...empty.brief,
      month: plate.month,
      setPointC: q(plate.setC),
      loads: [{ ...load, power: q(plate.houseW), dutyCycle: q(1) }],
    },
    place: { ...empty.place, listed: plate.listed },
    weather: { ...empty.weather, kind: "usual" },
    cabin: { ...empty.cabin, ...plate.cabin },
    units: [
      {
        ...empty.units[0]!,
        kind: fixed ? "fixed" : "variable",
        coolingPower: q(plate.coolingW),
        ratedPower: q(plate.ratedW),
        ...(fixed ? { thermostatBand: q(plate.band) } : {}),
      },
    ],
    bank: {
      ...empty.bank,
      chemistry: lead ? "agm" : "lfp",
      build: "batteries",
      blockVoltage: q(lead ? 12 : 12.8),
      series: q(1),
      parallel: q(plate.parallel),
      capacityAh: q(plate.singleAh),
    },
    inverter: { ...empty.inverter, rating: q(3000) },
    sources: {
      ...empty.sources,
      panels: panelsW > 0 ? [{ ...panel, power: q(200), count: q(panelsW / 200) }] : [],
    },
  };
}
