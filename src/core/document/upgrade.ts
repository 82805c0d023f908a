import { PLACES } from "../reference/weather/places";

/** Older documents of jobs, brought to the present form one version at a time. Anything unreadable is passed on as it is. */
export function upgradeDocument(value: unknown): unknown {
  if (!isRecord(value)) return value;
  const seventh = value.format === "chillbank-rig" ? toSeventh(value) : value;
  return seventh.format === "chillbank-document" && seventh.version === 7 ? fromSeventh(seventh) : seventh;
}

function toSeventh(value: Loose): Loose {
  const second = value.version === 1 ? fromFirst(value) : value;
  const third = second.version === 2 ? fromSecond(second) : second;
  const fourth = third.version === 3 ? fromThird(third) : third;
  const fifth = fourth.version === 4 ? fromFourth(fourth) : fourth;
  const sixth = fifth.version === 5 ? fromFifth(fifth) : fifth;
  return sixth.version === 6 ? fromSixth(sixth) : sixth;
}

type Loose = Record<string, unknown>;
const isRecord = (value: unknown): value is Loose =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const each = (list: unknown, change: (one: Loose) => Loose): unknown =>
  Array.isArray(list) ? list.map((one: unknown) => (isRecord(one) ? change(one) : one)) : list;
const within = (value: unknown, change: (one: Loose) => Loose): unknown => (isRecord(value) ? change(value) : value);

/** What a part of version 4 did not say: the kinds that nobody asked about are taken as the usual ones. */
function partOfFourth(part: Loose): Loose {
  switch (part.kind) {
    case "cable":
      return { method: "B2", terminals: "standard", ...part };
    case "breaker":
      return { curve: "C", ...part };
    case "changeover":
      return { poles: "all", ...part };
    case "rcd":
      return { residualType: "A", poles: "all", ...part };
    default:
      return part;
  }
}

/** The far sides that version 4 had no place for, with the parts of a sound one; every size of them is assumed. */
const FAR_KINDS: Record<string, string[]> = {
  solar: ["isolator", "cable"],
  engine: ["fuse", "cable"],
  charger: ["breaker", "cable"],
};

function branchOfFourth(branch: Loose): Loose {
  const parts: unknown[] = Array.isArray(branch.parts) ? branch.parts : [];
  const role = String(branch.role);
  const throughConverter = role !== "engine" || branch.coupling === "dc-dc";
  const kinds = throughConverter ? (FAR_KINDS[role] ?? []) : [];
  const far: Loose[] = kinds.map((kind, i) =>
    partOfFourth({
      id: `${String(branch.id)}-far-${i + 1}`,
      name: "",
      kind,
      ...(kind === "fuse" ? { fuseKind: "class-t" } : {}),
      ...(kind === "cable" ? { insulation: "90", route: "free", ways: "both" } : {}),
    }),
  );
  // The fuse at the engine's end stood on the one circuit there was: it is the starter battery's. What was entered of it stays,
  // though it was chosen for the battery's amps: the rules say so where it does not fit.
  const fuses = parts.flatMap((part, i) => (isRecord(part) && part.kind === "fuse" ? [i] : []));
  const atEngine = role === "engine" && throughConverter && fuses.length > 1 ? fuses[fuses.length - 1]! : -1;
  const kept = parts.filter((_, i) => i !== atEngine);
  if (atEngine >= 0) far[0] = partOfFourth(parts[atEngine] as Loose);
  return { far, ...branch, parts: each(kept, partOfFourth) };
}

/** The typical station that version 5 took a job to be at by the words of its place, or null where it recognised none. */
function stationInWords(words: unknown): string | null {
  if (typeof words !== "string" || words.trim() === "") return null;
  const text = words.toLowerCase();
  const named = PLACES.find(({ name }) => text.includes(name.split(",")[0]!.toLowerCase()));
  const region = PLACES.find(({ name }) => name.includes(",") && text.includes(name.split(", ")[1]!.toLowerCase()));
  return (named ?? region)?.id ?? null;
}

/** Version 7 said `path` for the wiring, `cure` for a start aid, `share` for a duty cycle and for a state of charge. */
const fromSeventh = (old: Loose): Loose => ({
  ...renamed(old, { path: "wiring", cures: "startAids" }),
  version: 8,
  brief: within(old.brief, (brief) => ({
    ...brief,
    loads: each(brief.loads, (load) => renamed(load, { share: "dutyCycle" })),
  })),
  units: each(old.units, (unit) =>
    renamed(unit, { cure: "startAid", runShare: "dutyCycle", sensibleShare: "sensibleHeatRatio" }),
  ),
  bank: within(old.bank, (bank) => renamed(bank, { startShare: "startSoc" })),
  handover: within(old.handover, (handover) => renamed(handover, { pack: "document" })),
});

/** A record with some of its keys under other names, in the order that it had. */
const renamed = (record: Loose, names: Record<string, string>): Loose =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [names[key] ?? key, value]));

/** Version 6 had another name for the format, and for the section of the printed document that describes the design. */
const fromSixth = (old: Loose): Loose => ({
  ...old,
  format: "chillbank-document",
  version: 7,
  handover: within(old.handover, (handover) => ({
    ...handover,
    pack: within(handover.pack, (pack) => ({
      ...pack,
      leaveOut: Array.isArray(pack.leaveOut)
        ? pack.leaveOut.map((section: unknown) => (section === "rig" ? "design" : section))
        : pack.leaveOut,
    })),
  })),
});

const READY_DAYS: unknown[] = ["mild", "usual", "hot"];

/**
 * Version 5 had an outdoor temperature in the brief beside the weather of the run, and took a place from words. What was
 * entered becomes the highest temperature of a design day of the customer's own; the words' station becomes the place.
 */
function fromFifth(old: Loose): Loose {
  const brief: Loose = isRecord(old.brief) ? { ...old.brief } : {};
  const { outdoorC } = brief;
  delete brief.outdoorC;
  const own = outdoorC !== undefined && isRecord(old.weather) && READY_DAYS.includes(old.weather.kind);
  return {
    ...old,
    version: 6,
    notation: within(old.notation, (notation) => ({
      cooling: notation.length === "ft" ? "BTU/h" : "kW",
      ...notation,
    })),
    brief: isRecord(old.brief) ? brief : old.brief,
    place: within(old.place, (place) =>
      place.listed === null && place.latitude === undefined && place.longitude === undefined
        ? { ...place, listed: stationInWords(brief.place) }
        : place,
    ),
    weather: within(old.weather, (weather) =>
      outdoorC === undefined ? weather : { ...weather, ...(own ? { kind: "own" } : {}), highestC: outdoorC },
    ),
  };
}

/** Version 4 knew two mains systems, one side of a converter, and neither legs, curves, bonds nor rule sets. */
function fromFourth(old: Loose): Loose {
  return {
    ...old,
    version: 5,
    brief: within(old.brief, (brief) => ({
      ruleSet: "auto",
      ...brief,
      loads: each(brief.loads, (load) => ({ leg: "L1", ...load })),
    })),
    units: each(old.units, (unit) => ({ leg: "L1", ...unit })),
    inverter: within(old.inverter, (inverter) => ({
      output: "split-phase",
      neutrals: "unsaid",
      leads: "unsaid",
      neutralBond: "unsaid",
      combined: false,
      assist: false,
      ...inverter,
    })),
    path: within(old.path, (path) => ({
      ...path,
      links: within(path.links, (links) => ({ fuses: "unsaid", ...links })),
      main: each(path.main, partOfFourth),
      mains: each(path.mains, partOfFourth),
      branches: each(path.branches, branchOfFourth),
    })),
    supplies: within(old.supplies, (supplies) => ({ generatorAuto: false, generatorBond: "unsaid", ...supplies })),
    sources: within(old.sources, (sources) => ({
      ...sources,
      controllers: each(sources.controllers, (controller) => ({ stringFuses: "unsaid", ...controller })),
    })),
  };
}

/** Version 3 kept nothing of what was found and measured at the job. */
function fromThird(old: Loose): Loose {
  return {
    ...old,
    version: 4,
    handover: {
      findings: [],
      steps: [],
      pack: { paper: "a4", leaveOut: [], switches: "", advice: "", signedBy: "", signedOn: null },
    },
  };
}

/** Version 2 knew no place on the globe, no cabin, no sources and no plan of the day: all of them were assumed. */
function fromSecond(old: Loose): Loose {
  const units = Array.isArray(old.units)
    ? old.units.map((unit: unknown) => (isRecord(unit) ? { condenser: "outside", ...unit } : unit))
    : old.units;
  return {
    ...old,
    version: 3,
    units,
    place: { listed: null, timeZone: null },
    weather: { kind: "usual", seed: 1, file: null },
    cabin: {
      kind: "van",
      insulation: "lined",
      colour: "white",
      glazing: "double",
      blinds: "inside",
      inverterInside: false,
    },
    sources: { panels: [], controllers: [], obstacles: [] },
    plan: { start: null, days: 7, patterns: [], week: [] },
  };
}

/** What version 1 held of the path, by the part that holds it now. */
const FUSE_KEYS = {
  fuseRating: "rating",
  fuseVoltage: "voltage",
  fuseInterrupting: "interrupting",
  fuseResistance: "resistance",
};
const CABLE_KEYS = { cableAreaMm2: "areaMm2", cableLength: "length", cableCount: "count", conductorC: "conductorC" };
const JOINT_KEYS = { contacts: "contacts", contactResistance: "resistance" };

/**
 * Version 1 had one fuse, one cable, a switch and joints between battery and inverter, and no mains side; its unknown keys
 * are left where they are, so that the schema names them.
 */
function fromFirst(old: Loose): Loose {
  const path = isRecord(old.path) ? old.path : {};
  const rest: Loose = { ...path };
  const take = (keys: Record<string, string>): Loose => {
    const taken: Loose = {};
    for (const [from, to] of Object.entries(keys)) {
      if (rest[from] !== undefined) taken[to] = rest[from];
      delete rest[from];
    }
    return taken;
  };
  const { fuseKind, insulation, route } = path;
  for (const key of ["fuseKind", "insulation", "route"]) delete rest[key];
  const fuse = { id: "main-fuse", name: "", kind: "fuse", fuseKind, ...take(FUSE_KEYS) };
  const cable = { id: "main-cable", name: "", kind: "cable", insulation, route, ways: "both", ...take(CABLE_KEYS) };
  const joints = { id: "main-joints", name: "", kind: "joints", ...take(JOINT_KEYS) };
  const together = take({ switchResistance: "resistance" });
  const switches = together.resistance
    ? [{ id: "main-isolator", name: "Isolator and shunt", kind: "isolator", ...together }]
    : [
        { id: "main-isolator", name: "", kind: "isolator" },
        { id: "main-shunt", name: "", kind: "shunt" },
      ];
  const american = isRecord(old.brief) && old.brief.mains === "120V60Hz";
  return {
    ...old,
    version: 2,
    notation: isRecord(old.notation) ? { currency: american ? "USD" : "EUR", ...old.notation } : old.notation,
    bank: isRecord(old.bank) ? { frostBlock: true, ...old.bank } : old.bank,
    path: isRecord(old.path)
      ? {
          ...rest,
          table: "auto",
          links: { layout: "busbars", paths: [] },
          main: [...(fuseKind === "none" ? [] : [fuse]), ...switches, cable, joints],
          mains: [
            { id: "mains-rcd", name: "", kind: "rcd" },
            { id: "mains-breaker", name: "", kind: "breaker" },
            { id: "mains-cable", name: "", kind: "cable", insulation: "90", route: "free", ways: "both" },
          ],
          branches: [],
          measured: {},
        }
      : old.path,
    supplies: { generatorKind: "electronic" },
    cures: {},
  };
}
