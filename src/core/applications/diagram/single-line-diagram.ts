import { formatQuantity } from "../../units/format";
import type { Rig } from "../../document/schema";
import { legCount } from "../../reference/standards/mains";
import type { Assessment } from "../../assessment/verdicts/assess";
import type { Word } from "../../assessment/checks/check";
import type { WiringPart, Circuit } from "../../models/wiring/circuits";
import { PART_NAMES, partWords } from "../../models/wiring/part";
import { onBattery, onMains } from "../../document/unit-kinds";

/** What is drawn on the line: a part's kind, or one of the things the runs join. */
export type DiagramSymbol =
  | WiringPart["part"]["kind"]
  | "breaker-dc"
  | "bank"
  | "inverter"
  | "unit"
  | "solar"
  | "engine"
  | "charger"
  | "loads"
  | "shore"
  | "circuit"
  | "dc-unit"
  | "converter"
  | "starter"
  | "link";

export interface DiagramItem {
  key: string;
  symbol: DiagramSymbol;
  /** Middle of the symbol on the line. */
  x: number;
  y: number;
  /** Bold first line, then the rest, each fitting its cell. */
  title: string;
  lines: string[];
  /** Where it is edited: a path of the document. */
  path: string;
  word: Word;
  /** What is wrong, where something is. */
  fault: string;
}

export interface DiagramText {
  x: number;
  y: number;
  text: string;
}

export interface DiagramWire {
  points: [x: number, y: number][];
  mains: boolean;
}

/** A one-line plan: everything placed, in px at 12 px type. */
export interface SingleLineDiagram {
  width: number;
  height: number;
  items: DiagramItem[];
  wires: DiagramWire[];
  headings: DiagramText[];
}

export const DIAGRAM_CELL = { width: 109, symbol: 34 } as const;
const MARGIN = 10;
const COLUMNS = 6;
const HEADING = 26;
/** Above and below the wire that leads from one row to the next. */
const RETURN = 7;
/** Letters of 12 px type that fit a cell. */
const FITS = 18;

const FITS_BOLD = 16;

const fit = (text: string, most = FITS): string =>
  text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text;

const GRAVITY: Record<Word, number> = { Holds: 0, Tight: 1, Fails: 2, Stop: 3 };

type Cell = Omit<DiagramItem, "x" | "y"> & { mains: boolean };

/** The one-line plan of a rig as assessed: bank to units in rows, then each run beside them. */
export function singleLineDiagram(rig: Rig, assessment: Assessment): SingleLineDiagram {
  const { path, currents, values, verdicts } = assessment;
  const prefs = rig.notation;
  const say = (value: number, dimension: Parameters<typeof formatQuantity>[1], digits = 2) =>
    formatQuantity(value, dimension, prefs, digits);
  const checks = [...verdicts.starts.checks, ...verdicts.carries.checks];
  const judged = (match: (part: string) => boolean): { word: Word; fault: string } => {
    const own = checks.filter(({ part }) => part !== undefined && match(part));
    const worst = own.reduce<(typeof own)[number] | null>(
      (a, b) => (!a || GRAVITY[b.word] > GRAVITY[a.word] ? b : a),
      null,
    );
    return { word: worst?.word ?? "Holds", fault: worst && GRAVITY[worst.word] > 0 ? worst.name : "" };
  };

  const shortOf = (part: WiringPart["part"]) =>
    part.kind === "rcd" ? partWords(part, path.rules).replace("ELCI or GFCI", "ELCI/GFCI") : short(part.kind);
  const partCell = (circuit: Circuit, one: WiringPart): Cell => {
    const amps = currents[circuit.path] ?? 0;
    const v = one.values;
    const drop = amps * one.resistance;
    const lines: string[] = [];
    switch (one.part.kind) {
      case "cable":
        lines.push(
          `${v.count!.value > 1 ? `${v.count!.value} × ` : ""}${say(v.areaMm2!.value, "area", 3)}, ${say(v.length!.value, "length")}`,
          `${say(amps, "current")} of ${say(one.ampacity!.value, "current")}`,
        );
        break;
      case "fuse":
        lines.push(`${say(v.rating!.value, "current")} ${fuseShort(partWords(one.part))}`, `${say(amps, "current")}`);
        break;
      case "joints":
        lines.push(`${v.contacts!.value} contacts`, say(amps, "current"));
        break;
      case "rcd":
        lines.push(`${say(v.rating!.value, "current")}, ${say(v.residual!.value, "current")}`);
        break;
      default:
        lines.push(`${say(v.rating!.value, "current")}`, ...(circuit.mains ? [] : [say(amps, "current")]));
    }
    if (one.resistance > 0) lines.push(`${say(drop, "voltage")}, ${say(drop * amps, "power")}`);
    return {
      key: one.path,
      symbol: one.part.kind === "fuse" && one.part.fuseKind === "breaker" ? "breaker-dc" : one.part.kind,
      title: fit(`${one.mark} ${one.part.name.trim() || shortOf(one.part)}`, FITS_BOLD),
      lines: lines.map((line) => fit(line)),
      path: one.path,
      mains: circuit.mains,
      ...judged((part) => part === one.path),
    };
  };
  const thing = (
    key: string,
    symbol: DiagramSymbol,
    title: string,
    lines: string[],
    at: string,
    mains = false,
  ): Cell => ({
    key,
    symbol,
    title: fit(title, FITS_BOLD),
    lines: lines.map((line) => fit(line)),
    path: at,
    mains,
    ...judged((part) => part === at),
  });

  const { bank } = values;
  const ownBranch = (id: string) =>
    path.branches.some(({ branch }) => branch!.role === "dc-unit" && branch!.unitId === id);
  const direct = rig.units.filter((unit) => onBattery(unit) && !(assessment.compartment && ownBranch(unit.id)));
  const fedByMains = rig.units.filter(onMains);
  const twoLegs = legCount(rig.brief.mains) === 2;
  const ownCircuit = (unit: Rig["units"][number]) =>
    path.branches.some(({ branch }) => branch!.role === "circuit" && branch!.unitId === unit.id);
  const shared = fedByMains.filter((unit) => !ownCircuit(unit));
  const unitCell = (unit: Rig["units"][number]) => {
    const i = rig.units.indexOf(unit);
    return thing(
      `units.${i}`,
      "unit",
      unit.name,
      [
        say(assessment.units[i]!.running.value, "power"),
        twoLegs && onMains(unit) ? legWords(unit.leg) : "",
        unit.cure === "soft-starter" ? "soft-started" : "",
      ].filter(Boolean),
      `units.${i}`,
      onMains(unit),
    );
  };
  const { links } = rig.path;
  const volts = bank.blockVoltage.value * bank.series.value;
  const converted = assessment.compartment !== null;
  const chain: Cell[] = [
    thing(
      "bank",
      "bank",
      "Battery",
      [
        `${say(volts, "voltage", 3)} ${rig.bank.chemistry.toUpperCase()}`,
        `${say(bank.capacityAh.value * bank.parallel.value, "charge")}`,
        bank.parallel.value > 1 ? `${bank.parallel.value} in parallel` : "",
        bank.parallel.value > 1 && links.fuses === "each"
          ? `each fused ${say(values.path.links.fuseRating.value, "current")}`
          : "",
      ].filter(Boolean),
      "bank",
    ),
    ...path.main.parts.map((one) => partCell(path.main, one)),
    ...(converted
      ? [
          thing(
            "inverter",
            "inverter",
            "Inverter",
            [
              `${values.inverter.count.value > 1 ? `${values.inverter.count.value} × ` : ""}${say(values.inverter.rating.value, "apparentPower")}`,
              twoLegs ? (rig.inverter.output === "split-phase" ? "L1 and L2" : "one on both legs") : "",
              BONDS[rig.inverter.neutralBond],
              path.main.lanes > 1 ? `${path.main.lanes} equal circuits` : "",
            ].filter(Boolean),
            "inverter",
          ),
          ...path.mains.parts.map((one) => partCell(path.mains, one)),
          ...shared.map(unitCell),
          ...(shared.length < fedByMains.length
            ? [thing("board", "link", "board", ["to the circuits"], "path.mains", true)]
            : []),
        ]
      : []),
    ...direct.map(unitCell),
  ];
  /** The other side of a branch: its converter, the parts as they lie from it, and what feeds them. */
  const farCells = (branch: NonNullable<Circuit["branch"]>, at: string, source: Cell): Cell[] => {
    const circuit = path.far.find((one) => one.path === `${at}.far`);
    const far = circuit?.far;
    if (!circuit || !far) return [source];
    const parts = circuit.parts.map((one) => partCell(circuit, one));
    const quiet = { word: "Holds" as const, fault: "" };
    const amps = say(currents[circuit.path] ?? 0, "current");
    switch (branch.role) {
      case "loads":
        return [
          thing(`${at}.converter`, "converter", "DC-DC converter", [say(far.volts, "voltage"), amps], at),
          ...parts,
          source,
        ];
      case "engine":
        return [
          { ...source, symbol: "converter" },
          ...parts.reverse(),
          { ...thing(`${at}.starter`, "starter", "Starter battery", [say(far.volts, "voltage"), amps], at), ...quiet },
        ];
      case "charger":
        return [
          source,
          ...parts.reverse(),
          { ...thing(`${at}.supply`, "link", "from shore side", [amps], at, true), ...quiet },
        ];
      default:
        return [
          { ...thing(`${at}.controller`, "converter", "Controller", [fit(branch.name)], at) },
          ...parts.reverse(),
          {
            ...source,
            title: fit("Array", FITS_BOLD),
            lines: [
              far.highestVolts > 0 ? `${say(far.highestVolts, "voltage", 3)} cold` : "no panels yet",
              ...(far.highestVolts > 0 ? [amps] : []),
            ].map((line) => fit(line)),
          },
        ];
    }
  };
  const heading = (circuit: Circuit) => {
    const amps = currents[circuit.path];
    const far = path.far.find(({ branch }) => branch === circuit.branch && circuit.branch !== null);
    const other = far ? `; other side ${say(currents[far.path] ?? 0, "current")}` : "";
    return `${circuit.title}${amps === undefined ? "" : `, at most ${say(amps, "current")}`}${other}`;
  };
  const blocks: { heading: string; cells: Cell[] }[] = [
    {
      heading: `${heading(path.main)}${converted ? `; mains ${say(currents["path.mains"] ?? 0, "current")}` : ""}`,
      cells: chain,
    },
    ...path.branches.map((circuit) => {
      const branch = circuit.branch!;
      const at = circuit.path.replace(/\.parts$/, "");
      const unit = branch.role === "circuit" ? fedByMains.find(({ id }) => id === branch.unitId) : undefined;
      const direct = branch.role === "dc-unit" ? rig.units.find(({ id }) => id === branch.unitId) : undefined;
      const source = unit
        ? { ...unitCell(unit), key: `${at}.unit` }
        : direct
          ? { ...unitCell(direct), key: `${at}.unit` }
          : thing(`${at}.source`, branch.role, branch.name, [branchWords(branch)].filter(Boolean), at, circuit.mains);
      const link = thing(
        `${at}.link`,
        "link",
        branch.role === "circuit" ? "from board" : circuit.mains ? "to transfer" : "to battery",
        [],
        circuit.mains ? "path.mains" : "bank",
        circuit.mains,
      );
      return {
        heading: heading(circuit),
        cells: [
          { ...link, word: "Holds" as const, fault: "" },
          ...circuit.parts.map((one) => partCell(circuit, one)),
          ...farCells(branch, at, source),
        ],
      };
    }),
  ];

  const diagram: SingleLineDiagram = {
    width: 2 * MARGIN + COLUMNS * DIAGRAM_CELL.width,
    height: 0,
    items: [],
    wires: [],
    headings: [],
  };
  let top = 6;
  for (const { heading: text, cells } of blocks) {
    diagram.headings.push({ x: MARGIN, y: top + 14, text });
    top += HEADING;
    top = placeRows(diagram, cells, top);
    top += 10;
  }
  diagram.height = top;
  return diagram;
}

/** px from the line down to the end of a cell's lowest label. */
const depth = (lines: number) => 36 + 14 * lines;

/** Places cells in rows from `top` down, wires them in series, and returns where the next block may begin. */
function placeRows(diagram: SingleLineDiagram, cells: Cell[], top: number): number {
  const middle = (column: number) => MARGIN + (column + 0.5) * DIAGRAM_CELL.width;
  let y = top + DIAGRAM_CELL.symbol / 2;
  for (let first = 0; first < cells.length; first += COLUMNS) {
    const row = cells.slice(first, first + COLUMNS);
    if (first > 0) {
      const above = y;
      y +=
        depth(Math.max(...cells.slice(first - COLUMNS, first).map(({ lines }) => lines.length))) +
        2 * RETURN +
        DIAGRAM_CELL.symbol / 2;
      const between = y - DIAGRAM_CELL.symbol / 2 - RETURN;
      const [right, left] = [diagram.width - 6, 6];
      diagram.wires.push({
        points: [
          [middle(COLUMNS - 1), above],
          [right, above],
          [right, between],
          [left, between],
          [left, y],
          [middle(0), y],
        ],
        mains: row[0]!.mains,
      });
    }
    row.forEach(({ mains, ...cell }, column) => {
      diagram.items.push({ ...cell, x: middle(column), y });
      if (column > 0)
        diagram.wires.push({
          points: [
            [middle(column - 1), y],
            [middle(column), y],
          ],
          mains,
        });
    });
  }
  const last = cells.slice(-(((cells.length - 1) % COLUMNS) + 1));
  return y + depth(Math.max(...last.map(({ lines }) => lines.length)));
}

const BONDS: Record<Rig["inverter"]["neutralBond"], string> = {
  unsaid: "",
  relay: "neutral: by relay",
  fixed: "neutral: fixed",
  none: "neutral unbonded",
};

const legWords = (leg: Rig["units"][number]["leg"]) => (leg === "both" ? "L1 to L2" : leg);

function branchWords(branch: NonNullable<Circuit["branch"]>): string {
  switch (branch.role) {
    case "engine":
      return branch.coupling === "dc-dc" ? "DC-DC converter" : "isolator";
    case "charger":
      return `fed from ${branch.fedFrom}`;
    case "loads":
      return branch.converter ? "with converter" : "straight";
    case "circuit":
    case "dc-unit":
      return "of no unit yet";
    default:
      return "";
  }
}

const SHORT: Partial<Record<WiringPart["part"]["kind"], string>> = {
  joints: "terminations",
  changeover: "transfer",
};
const short = (kind: WiringPart["part"]["kind"]) => SHORT[kind] ?? PART_NAMES[kind];
const fuseShort = (words: string) =>
  words
    .replace(/ fuse( link)?$/, "")

    .replace("resettable ", "")
    .replace("bolt-down ", "");
