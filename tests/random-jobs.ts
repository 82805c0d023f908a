import fc from "fast-check";
import { METRIC } from "@/core/units/dimension";
import { MAINS_KEYS } from "@/core/reference/standards/mains";
import { RULE_SET_KEYS } from "@/core/reference/standards/rule-set";
import {
  START_AID_KEYS,
  emptyHandover,
  emptyPart,
  type Part,
  type Job,
  DOCUMENT_VERSION,
} from "@/core/document/schema";
import {
  BANK_FIELDS,
  BRANCH_FIELDS,
  BRIEF_FIELDS,
  START_AID_FIELDS,
  INVERTER_FIELDS,
  LINK_FIELDS,
  LINK_PATH_FIELDS,
  LOAD_FIELDS,
  MEASURED_FIELDS,
  PART_FIELDS,
  WIRING_FIELDS,
  SUPPLY_FIELDS,
  UNIT_FIELDS,
  type PartKind,
} from "@/core/document/fields";
import {
  CABIN_FIELDS,
  CONTROLLER_FIELDS,
  OBSTACLE_FIELDS,
  PANEL_FIELDS,
  PLACE_FIELDS,
  PLAN_FIELDS,
  SOURCE_FIELDS,
  SPAN_FIELDS,
  WEATHER_FIELDS,
} from "@/core/document/day-fields";
import { ORIGINS, type FieldSpec } from "@/core/units/known";

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

const choice = <T extends string>(...options: T[]) => fc.constantFrom(...options);

/** Random parts of a run, of the kinds given. */
function parts(kinds: PartKind[], wild: boolean, maxLength: number): fc.Arbitrary<Part[]> {
  const one = fc.constantFrom(...kinds).chain((kind) =>
    fc
      .record({
        own: group<string>(PART_FIELDS[kind], wild),
        insulation: choice("70", "90", "105"),
        route: choice("free", "bundled", "engine"),
        ways: choice("both", "one"),
        fuseKind: choice("class-t", "bolted-strip", "terminal", "blade", "hrc", "breaker"),
      })
      .map(({ own, insulation, route, ways, fuseKind }) => {
        const part = emptyPart(kind, "part");
        if (part.kind === "cable") return { ...part, insulation, route, ways, ...own } as Part;
        if (part.kind === "fuse") return { ...part, fuseKind, ...own } as Part;
        return { ...part, ...own } as Part;
      }),
  );
  return fc.array(one, { maxLength }).map((list) => list.map((part, i) => ({ ...part, id: `p${i}` })));
}

/** A list whose members have ids of their own, with a letter before a number. */
const numbered = <T>(letter: string, one: fc.Arbitrary<T>, maxLength: number) =>
  fc.array(one, { maxLength }).map((list) => list.map((member, i) => ({ ...member, id: `${letter}${i}` })));
const flat = <T extends { own: object }>({ own, ...rest }: T) => ({ ...rest, ...own });

/** Random spans of a day: of every kind, anywhere in it. */
function spans(wild: boolean) {
  const at = { from: fc.integer({ min: 0, max: 1439 }), minutes: fc.integer({ min: 1, max: 1440 }) };
  const one = <K extends keyof typeof SPAN_FIELDS>(
    kind: string,
    keys: K[],
    rest: Record<string, fc.Arbitrary<unknown>>,
  ) =>
    fc
      .record({
        own: group(Object.fromEntries(keys.map((key) => [key, SPAN_FIELDS[key]])) as Record<K, FieldSpec>, wild),
        kind: fc.constant(kind),
        ...at,
        ...rest,
      })
      .map(flat);
  return numbered(
    "s",
    fc.oneof(
      { weight: 3, arbitrary: one("unit", ["setPointC"], { mode: choice("auto", "medium", "low", "fan") }) },
      one("people", ["people"], { asleep: fc.boolean() }),
      one("open", ["airChanges"], {}),
      one("shade", ["shade"], { over: choice("all", "side") }),
      one("driving", [], { idle: fc.boolean() }),
      one("shore", [], {}),
      one("generator", [], {}),
      one("load", ["power"], { name: fc.constant("Load"), side: choice("mains", "dc") }),
    ),
    8,
  );
}

/** Place, weather, cabin, sources and plan of a random job. */
function day(wild: boolean) {
  const shadeByHour = fc.oneof(
    fc.constant([]),
    fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 24 }),
  );
  return fc.record({
    place: fc
      .record({
        own: group(PLACE_FIELDS, wild),
        listed: fc.constantFrom(null, "faro", "quartzsite"),
        timeZone: fc.constantFrom(null, "Europe/Lisbon", "Australia/Adelaide", "America/Costa_Rica"),
      })
      .map(flat),
    weather: fc
      .record({
        own: group(WEATHER_FIELDS, wild),
        kind: choice("mild", "usual", "hot", "own", "generated"),
        seed: fc.integer({ min: 0, max: 999_999 }),
        file: fc.constant(null),
      })
      .map(flat),
    cabin: fc
      .record({
        own: group(CABIN_FIELDS, wild),
        kind: choice("van", "caravan", "motorhome", "bus", "truck", "boat", "room"),
        insulation: choice("canvas", "bare", "lined", "grade2", "grade3", "insulated", "grp", "masonry", "house"),
        colour: choice("white", "grey", "dark"),
        glazing: choice("single", "double"),
        blinds: choice("none", "inside", "outside"),
        inverterInside: fc.boolean(),
      })
      .map(flat),
    sources: fc
      .record({
        own: group(SOURCE_FIELDS, wild),
        panels: numbered(
          "p",
          fc
            .record({
              own: group(PANEL_FIELDS, wild),
              name: fc.constant("Panel"),
              mount: choice("flat", "tilted", "portable"),
              shadeByHour,
            })
            .map(flat),
          4,
        ),
        controllers: numbered(
          "c",
          fc
            .record({
              own: group(CONTROLLER_FIELDS, wild),
              name: fc.constant("Controller"),
              stringFuses: choice("unsaid", "each", "none"),
            })
            .map(flat),
          2,
        ),
        obstacles: numbered(
          "o",
          fc.record({ own: group(OBSTACLE_FIELDS, wild), name: fc.constant("Vent") }).map(flat),
          2,
        ),
      })
      .map(flat),
    plan: fc
      .record({
        own: group(PLAN_FIELDS, wild),
        start: fc.constantFrom(null, "2028-02-28", "2026-03-28", "2026-12-20"),
        days: fc.integer({ min: 1, max: 14 }),
        patterns: numbered("d", fc.record({ name: fc.constant("Day"), spans: spans(wild) }), 2),
        week: fc.constantFrom([], ["d0"], ["d0", "d1", "d0", "d1", "d0", "d1", "nobody"]),
      })
      .map(flat),
  });
}

/** Random documents of jobs: plausible ones, or `wild` ones with anything that the schema lets in. */
export function randomJob(wild: boolean): fc.Arbitrary<Job> {
  const unit = fc
    .record({
      own: group(UNIT_FIELDS, wild),
      kind: fc.constantFrom("fixed", "variable", "dc"),
      startAid: fc.constantFrom("none", "soft-starter", "start-capacitor"),
      learned: fc.boolean(),
      fanBetween: fc.boolean(),
      condenser: fc.constantFrom("outside", "boxed", "single-duct", "sea"),
      leg: choice("L1", "L2", "both"),
    })
    .map(({ own, ...rest }) => ({ id: "unit", name: "Unit", ...rest, ...own }));
  const load = fc
    .record({
      own: group(LOAD_FIELDS, wild),
      side: fc.constantFrom("mains", "dc"),
      leg: choice("L1", "L2", "both"),
      atStart: fc.boolean(),
    })
    .map(({ own, ...rest }) => ({ id: "load", name: "Load", ...rest, ...own }));
  return fc
    .record({
      mains: fc.constantFrom(...MAINS_KEYS),
      ruleSet: fc.constantFrom("auto", ...RULE_SET_KEYS),
      stance: fc.constantFrom("expected", "never-resting", "storage"),
      brief: group(BRIEF_FIELDS, wild),
      units: fc.array(unit, { minLength: 1, maxLength: 3 }),
      loads: fc.array(load, { maxLength: 3 }),
      bank: fc.record({
        own: group(BANK_FIELDS, wild),
        chemistry: fc.constantFrom("lfp", "nmc", "agm"),
        build: fc.constantFrom("batteries", "cells"),
        frostBlock: fc.boolean(),
      }),
      inverter: fc.record({
        own: group(INVERTER_FIELDS, wild),
        type: fc.constantFrom("high-frequency", "transformer"),
        waveform: fc.constantFrom("sine", "modified"),
        startOrder: fc.constantFrom("in-turn", "together"),
        output: choice("split-phase", "both-legs"),
        neutrals: choice("unsaid", "own", "shared"),
        leads: choice("unsaid", "own", "shared"),
        neutralBond: choice("unsaid", "relay", "fixed", "none"),
        combined: fc.boolean(),
        assist: fc.boolean(),
      }),
      wiring: fc.record({
        own: group(WIRING_FIELDS, wild),
        table: choice("auto", "iso-10133", "abyc-e11"),
        links: fc
          .record({
            own: group(LINK_FIELDS, wild),
            layout: choice("busbars", "own-leads", "chain-diagonal", "chain-one-end"),
            fuses: choice("unsaid", "each", "none"),
            paths: fc.array(group(LINK_PATH_FIELDS, wild), { maxLength: 4 }),
          })
          .map(({ own, ...rest }) => ({ ...rest, ...own })),
        main: parts(["cable", "fuse", "isolator", "shunt", "busbar", "joints"], wild, 8),
        mains: parts(["cable", "breaker", "changeover", "rcd"], wild, 5),
        branches: fc
          .array(
            fc
              .record({
                own: group(BRANCH_FIELDS, wild),
                role: choice("solar", "engine", "charger", "loads", "shore", "circuit", "dc-unit"),
                unitId: fc.constantFrom("unit", "nobody"),
                coupling: choice("dc-dc", "isolator"),
                control: choice("engine-running", "ignition"),
                fedFrom: choice("shore", "inverter"),
                converter: fc.boolean(),
              })
              .chain(({ own, ...rest }) => {
                const ac: PartKind[] = ["cable", "breaker", "rcd", "inlet"];
                const dc: PartKind[] = ["cable", "fuse", "joints", "isolator", "connector"];
                const mains = rest.role === "shore" || rest.role === "circuit";
                return fc
                  .tuple(parts(mains ? ac : dc, wild, 4), parts(rest.role === "charger" ? ac : dc, wild, 3))
                  .map(([list, far]) => ({ name: rest.role, ...rest, ...own, parts: list, far }));
              }),
            { maxLength: 3 },
          )
          .map((list) => list.map((branch, i) => ({ id: `b${i}`, ...branch }))),
        measured: fc.oneof({ weight: 3, arbitrary: fc.constant({}) }, group(MEASURED_FIELDS, wild)),
      }),
      supplies: fc
        .record({
          own: group(SUPPLY_FIELDS, wild),
          generatorKind: choice("electronic", "conventional"),
          generatorAuto: fc.boolean(),
          generatorBond: choice("unsaid", "bonded", "floating"),
        })
        .map(({ own, ...rest }) => ({ ...rest, ...own })),
      day: day(wild),
      startAids: fc.dictionary(fc.constantFrom(...START_AID_KEYS), group(START_AID_FIELDS, wild), { maxKeys: 2 }),
    })
    .map(({ mains, ruleSet, stance, brief, units, loads, bank, inverter, wiring, supplies, day, startAids }) => {
      return {
        format: "chillbank-document",
        version: DOCUMENT_VERSION,
        name: "Random",
        notation: METRIC,
        brief: { wording: "", place: "", month: null, mains, ruleSet, stance, aboard: [], loads, ...brief },
        units,
        bank: flat(bank),
        inverter: flat(inverter),
        wiring: flat(wiring),
        supplies,
        ...day,
        handover: emptyHandover(),
        startAids,
      } as unknown as Job;
    });
}
