import type { Rig } from "./document";
import {
  BANK_FIELDS,
  BRIEF_FIELDS,
  INVERTER_FIELDS,
  LOAD_FIELDS,
  PATH_FIELDS,
  UNIT_FIELDS,
  type BankKey,
  type BriefKey,
  type InverterKey,
  type LoadKey,
  type PathKey,
  type UnitKey,
} from "./fields";
import type { FieldSpec, Known, Quantity, Typical } from "./quantity";
import {
  bankTypicals,
  BRIEF_TYPICALS,
  inverterTypicals,
  LOAD_TYPICALS,
  pathTypicals,
  unitTypicals,
  type OptionalInverterKey,
  type OptionalUnitKey,
} from "./typical";

type Group<K extends string, O extends K = never> = Record<Exclude<K, O>, Known> & Partial<Record<O, Known>>;

/** Every quantity of a rig with its value, entered or typical. Optional ones that nobody entered are absent. */
export interface RigValues {
  brief: Group<BriefKey>;
  loads: Group<LoadKey>[];
  units: Group<UnitKey, OptionalUnitKey>[];
  bank: Group<BankKey>;
  inverter: Group<InverterKey, OptionalInverterKey>;
  path: Group<PathKey>;
}

function resolveGroup<K extends string>(
  fields: Record<K, FieldSpec>,
  entered: Partial<Record<K, Quantity>>,
  path: string,
  typicals: Partial<Record<K, (need: (key: K) => number) => Typical>>,
): Record<K, Known> {
  const known = {} as Record<K, Known>;
  const settle = (key: K): Known | undefined => {
    if (known[key]) return known[key];
    const { label, dimension } = fields[key];
    const given = entered[key];
    const typical = typicals[key];
    if (given) {
      known[key] = { path: `${path}.${key}`, label, dimension, ...given, why: "", entered: true };
    } else if (typical) {
      const { value, why } = typical((other) => settle(other)!.value);
      known[key] = { path: `${path}.${key}`, label, dimension, value, origin: "assumed", why, entered: false };
    }
    return known[key];
  };
  (Object.keys(fields) as K[]).forEach(settle);
  return known;
}

/** Fills every gap of a rig with its typical value. Pure; a valid document always resolves. */
export function resolveRig(rig: Rig): RigValues {
  const brief = resolveGroup(BRIEF_FIELDS, rig.brief, "brief", BRIEF_TYPICALS);
  const bank = resolveGroup(BANK_FIELDS, rig.bank, "bank", bankTypicals(rig));
  const bankVoltage = bank.blockVoltage.value * bank.series.value;
  const loads = rig.brief.loads.map((load, i) => resolveGroup(LOAD_FIELDS, load, `brief.loads.${i}`, LOAD_TYPICALS));
  const units = rig.units.map((unit, i) =>
    resolveGroup(UNIT_FIELDS, unit, `units.${i}`, unitTypicals(rig, unit, bankVoltage)),
  );
  const inverterFields = inverterTypicals(rig, bankVoltage, brief.outdoorC.value);
  const inverter = resolveGroup(INVERTER_FIELDS, rig.inverter, "inverter", inverterFields);
  // The path is sized by what the machine at its end can draw: the inverter, and units that run straight from the bank.
  const direct = rig.units.reduce((sum, unit, i) => sum + (unit.kind === "dc" ? units[i]!.ratedPower.value : 0), 0);
  const converted = usesInverter(rig) ? (inverter.rating.value * inverter.count.value) / 0.9 : 0;
  const path = resolveGroup(PATH_FIELDS, rig.path, "path", pathTypicals(rig, bankVoltage, direct + converted));
  return { brief, loads, units, bank, inverter, path };
}

/** Whether anything in the rig needs mains from the inverter. */
export function usesInverter(rig: Rig): boolean {
  return rig.units.some((unit) => unit.kind !== "dc") || rig.brief.loads.some((load) => load.side === "mains");
}
