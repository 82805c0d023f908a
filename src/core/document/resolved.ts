import type { SiteOfJob } from "./place";
import type { JobPath } from "./path";
import { type StartAidKey } from "./schema";
import {
  type BankKey,
  type BranchKey,
  type BriefKey,
  type InverterKey,
  type LinkKey,
  type LoadKey,
  type MeasuredKey,
  type PartKey,
  type WiringKey,
  type SupplyKey,
  type UnitKey,
} from "./fields";
import {
  type CabinKey,
  type ControllerKey,
  type ObstacleKey,
  type PanelKey,
  type PlaceKey,
  type PlanKey,
  type SourceKey,
  type SpanKey,
  type WeatherKey,
} from "./day-fields";
import type { DrawnStates } from "./draw-readings";
import type { FieldSpec, ResolvedQuantity, Quantity, DefaultValue } from "../units/known";
import type { OptionalCabinKey } from "./day-defaults";
import { type OptionalInverterKey, type OptionalUnitKey } from "./defaults";

/** A quantity of a job with its value, entered or typical, and where it is entered. */
export interface JobQuantity extends ResolvedQuantity {
  path: JobPath;
}

/** The resolved quantities of one group of fields; those in O are absent where nobody entered them. */
export type Group<K extends string, O extends K = never> = Record<Exclude<K, O>, JobQuantity> &
  Partial<Record<O, JobQuantity>>;

/** The quantities that a part of its kind has. */
export type PartValues = Partial<Record<PartKey, JobQuantity>>;

export type WiringValues = Group<WiringKey> & {
  links: Group<LinkKey> & { paths: { length: JobQuantity }[] };
  main: PartValues[];
  mains: PartValues[];
  branches: (Group<BranchKey> & { parts: PartValues[]; far: PartValues[] })[];
  measured: Partial<Record<MeasuredKey, JobQuantity>>;
};

/** Every quantity of a system with its value, entered or typical. Optional ones that nobody entered are absent. */
export interface JobValues {
  /** Where and when it is. */
  site: SiteOfJob;
  brief: Group<BriefKey>;
  loads: Group<LoadKey>[];
  units: Group<UnitKey, OptionalUnitKey>[];
  /** What the readings of each unit say by state, where its quantities stand on them. */
  drawn: DrawnStates[];
  bank: Group<BankKey>;
  inverter: Group<InverterKey, OptionalInverterKey>;
  wiring: WiringValues;
  supplies: Group<SupplyKey>;
  place: Group<PlaceKey>;
  /** The design day: what every figure takes its temperatures from. */
  weather: Group<WeatherKey>;
  cabin: Group<CabinKey, OptionalCabinKey>;
  sources: Group<SourceKey> & {
    panels: Group<PanelKey>[];
    controllers: Group<ControllerKey, "maxArrayCurrent">[];
    obstacles: Group<ObstacleKey>[];
  };
  plan: Group<PlanKey, "startCabinC"> & { patterns: { spans: Partial<Record<SpanKey, JobQuantity>>[] }[] };
  startAids: Record<StartAidKey, Group<"cost" | "mass">>;
}

/**
 * What both have, `more` where they meet, in the order of a spread. V8 adds keys after a spread one by one, ten times as
 * slowly, and a system is resolved thousands of times in a search: hot code of the core has its spread last, or this.
 */
export const withMore = <A extends object, B extends object>(some: A, more: B): A & B => Object.assign({}, some, more);

/** Every field of a group: as entered, or typical. `typicals` may ask for other fields of the group by `need`. */
export function resolveGroup<K extends string>(
  fields: Record<K, FieldSpec>,
  entered: Partial<Record<K, Quantity>>,
  path: string,
  typicals: Partial<Record<K, (need: (key: K) => number) => DefaultValue>>,
): Record<K, JobQuantity> {
  const known = {} as Record<K, JobQuantity>;
  const at = (key: K) => `${path}.${key}` as JobPath;
  const need = (key: K): number => settle(key)!.value;
  const settle = (key: K): JobQuantity | undefined => {
    const settled = known[key];
    if (settled) return settled;
    const { label, dimension } = fields[key];
    const given = entered[key];
    if (given) {
      const { value, origin } = given;
      return (known[key] = { path: at(key), label, dimension, value, origin, why: "", entered: true });
    }
    const typical = typicals[key];
    if (!typical) return undefined;
    const { value, why } = typical(need);
    return (known[key] = { path: at(key), label, dimension, value, origin: "assumed", why, entered: false });
  };
  for (const key in fields) settle(key);
  return known;
}
