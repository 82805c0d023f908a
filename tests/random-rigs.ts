import fc from "fast-check";
import type { Rig } from "@/core/rig/document";
import { BANK_FIELDS, BRIEF_FIELDS, INVERTER_FIELDS, LOAD_FIELDS, PATH_FIELDS, UNIT_FIELDS } from "@/core/rig/fields";
import { ORIGINS, type FieldSpec } from "@/core/rig/quantity";

const span = (spec: FieldSpec, low: number, high: number) =>
  spec.dimension === "count"
    ? fc.integer({ min: Math.ceil(low), max: Math.floor(high) })
    : fc.double({ min: low, max: high, noNaN: true });

/** A group with some of its quantities entered; `wild` ones anywhere within the hard limits. */
function group<K extends string>(fields: Record<K, FieldSpec>, wild: boolean) {
  const shape = Object.entries<FieldSpec>(fields).map(([key, spec]) => {
    const plausible = span(spec, spec.low, spec.high);
    const value = wild
      ? fc.oneof(plausible, span(spec, spec.min, spec.max), fc.constantFrom(spec.min, spec.max))
      : plausible;
    return [
      key,
      fc.option(fc.record({ value, origin: fc.constantFrom(...ORIGINS) }), { nil: undefined, freq: 2 }),
    ] as const;
  });
  return fc
    .record(Object.fromEntries(shape))
    .map(
      (entries) =>
        Object.fromEntries(Object.entries(entries).filter(([, quantity]) => quantity !== undefined)) as Partial<
          Record<K, { value: number; origin: (typeof ORIGINS)[number] }>
        >,
    );
}

/** Random rig documents: plausible ones, or `wild` ones with anything that the schema lets in. */
export function randomRig(wild: boolean): fc.Arbitrary<Rig> {
  const unit = fc
    .record({
      own: group(UNIT_FIELDS, wild),
      kind: fc.constantFrom("fixed", "variable", "dc"),
      cure: fc.constantFrom("none", "soft-starter", "start-capacitor"),
      learned: fc.boolean(),
      fanBetween: fc.boolean(),
    })
    .map(({ own, ...rest }) => ({ id: "unit", name: "Unit", ...rest, ...own }));
  const load = fc
    .record({ own: group(LOAD_FIELDS, wild), side: fc.constantFrom("mains", "dc"), atStart: fc.boolean() })
    .map(({ own, ...rest }) => ({ id: "load", name: "Load", ...rest, ...own }));
  return fc
    .record({
      mains: fc.constantFrom("230V50Hz", "120V60Hz"),
      stance: fc.constantFrom("expected", "never-resting"),
      brief: group(BRIEF_FIELDS, wild),
      units: fc.array(unit, { minLength: 1, maxLength: 3 }),
      loads: fc.array(load, { maxLength: 3 }),
      bank: fc.record({
        own: group(BANK_FIELDS, wild),
        chemistry: fc.constantFrom("lfp", "nmc", "agm"),
        build: fc.constantFrom("batteries", "cells"),
      }),
      inverter: fc.record({
        own: group(INVERTER_FIELDS, wild),
        type: fc.constantFrom("high-frequency", "transformer"),
        waveform: fc.constantFrom("sine", "modified"),
        startOrder: fc.constantFrom("in-turn", "together"),
      }),
      path: fc.record({
        own: group(PATH_FIELDS, wild),
        insulation: fc.constantFrom("70", "90", "105"),
        route: fc.constantFrom("free", "bundled", "engine"),
        fuseKind: fc.constantFrom("none", "class-t", "bolted-strip", "terminal", "hrc", "breaker"),
      }),
    })
    .map(({ mains, stance, brief, units, loads, bank, inverter, path }) => {
      const flat = <T extends { own: object }>({ own, ...rest }: T) => ({ ...rest, ...own });
      return {
        format: "chillbank-rig",
        version: 1,
        name: "Random",
        notation: { temperature: "C", cable: "mm2", length: "m" },
        brief: { wording: "", place: "", month: null, mains, stance, aboard: [], loads, ...brief },
        units,
        bank: flat(bank),
        inverter: flat(inverter),
        path: flat(path),
      } as unknown as Rig;
    });
}
