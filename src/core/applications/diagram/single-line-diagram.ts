import type { BranchPath, JobPath } from "../../document/path";
import { wrapText } from "../../units/text";
import { formatQuantity } from "../../units/format";
import type { Job, Branch, Unit } from "../../document/schema";
import { legCount } from "../../reference/standards/mains";
import type { Assessment } from "../../assessment/verdicts/assess";
import type { Check } from "../../assessment/judge/judge";
import type { Word } from "../../assessment/judge/word";
import type { WiringPart, Circuit } from "../../models/wiring/circuits";
import { PART_NAMES, partWords } from "../../models/wiring/part";
import { onBattery, onMains } from "../../document/unit-kinds";
import type { Dimension } from "../../units/dimension";

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
  /** Its name, whole, and as bold lines that fit its cell; then the rest, each fitting it too. */
  title: string;
  titleLines: string[];
  lines: string[];
  /** Where it is edited: a path of the document. */
  path: JobPath;
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

/** Lines that a name may take, at most. */
const NAME_LINES = 3;

/** Lines of type beneath an item's symbol. */
export const linesBelow = ({ titleLines, lines }: Pick<DiagramItem, "titleLines" | "lines">): number =>
  titleLines.length + lines.length;

const GRAVITY: Record<Word, number> = { Holds: 0, Tight: 1, Fails: 2, Stop: 3 };

type Cell = Omit<DiagramItem, "x" | "y"> & { mains: boolean };

/** The one-line plan of a job as assessed: battery to units in rows, then each circuit beside them. */
export function singleLineDiagram(job: Job, assessment: Assessment): SingleLineDiagram {
  const cells = new Cells(job, assessment);
  const diagram: SingleLineDiagram = {
    width: 2 * MARGIN + COLUMNS * DIAGRAM_CELL.width,
    height: 0,
    items: [],
    wires: [],
    headings: [],
  };
  let top = 6;
  for (const { heading, row } of [
    cells.mainBlock(),
    ...assessment.wiring.branches.map((one) => cells.branchBlock(one)),
  ]) {
    diagram.headings.push({ x: MARGIN, y: top + 14, text: heading });
    top = placeRows(diagram, row, top + HEADING) + 10;
  }
  diagram.height = top;
  return diagram;
}

/** A circuit as it is drawn: its heading, and its cells in order. */
interface Block {
  heading: string;
  row: Cell[];
}

/** What a cell says beside its symbol. */
interface Labelled {
  key: string;
  symbol: DiagramSymbol;
  title: string;
  lines: string[];
  /** Path in the document of what it stands for. */
  at: JobPath;
  mains?: boolean;
}

/** A cell that stands for something beyond the circuit, which its checks do not judge. */
const unjudged = (cell: Cell): Cell => ({ ...cell, word: "Holds", fault: "" });

/** Makes the cells of one job's diagram. */
class Cells {
  private readonly checks: Check[];
  private readonly twoLegs: boolean;
  private readonly converted: boolean;

  constructor(
    private readonly job: Job,
    private readonly assessment: Assessment,
  ) {
    const { starts, carries } = assessment.verdicts;
    this.checks = [...starts.checks, ...carries.checks];
    this.twoLegs = legCount(job.brief.mains) === 2;
    this.converted = assessment.compartment !== null;
  }

  private say(value: number, dimension: Dimension, digits = 2): string {
    return formatQuantity(value, dimension, this.job.notation, digits);
  }

  /** The gravest word among the checks of what stands at a path, and what it says where it is no pass. */
  private judged(path: JobPath): Pick<Cell, "word" | "fault"> {
    const own = this.checks.filter(({ part }) => part === path);
    const worst = own.reduce<Check | null>((a, b) => (!a || GRAVITY[b.word] > GRAVITY[a.word] ? b : a), null);
    return { word: worst?.word ?? "Holds", fault: worst && GRAVITY[worst.word] > 0 ? worst.name : "" };
  }

  private labelled({ key, symbol, title, lines, at, mains = false }: Labelled): Cell {
    return {
      key,
      symbol,
      title,
      titleLines: wrapText(title, FITS_BOLD, NAME_LINES),
      lines: lines.filter(Boolean).flatMap((line) => wrapText(line, FITS, NAME_LINES)),
      path: at,
      mains,
      ...this.judged(at),
    };
  }

  private part(circuit: Circuit, one: WiringPart): Cell {
    const { rules } = this.assessment.wiring;
    const { part, mark, path } = one;
    const ownName =
      part.kind === "rcd" ? partWords(part, rules).replace("ELCI or GFCI", "ELCI/GFCI") : short(part.kind);
    return this.labelled({
      key: path,
      symbol: part.kind === "fuse" && part.fuseKind === "breaker" ? "breaker-dc" : part.kind,
      title: `${mark} ${part.name.trim() || ownName}`,
      lines: this.partLines(circuit, one),
      at: path,
      mains: circuit.mains,
    });
  }

  /** A through a part of a circuit: before the busbar of the main one, of all that it joins. */
  private through(circuit: Circuit, one: WiringPart): number {
    const { currents, shared } = this.assessment;
    const isShared = shared && circuit.key === "main" && circuit.parts.indexOf(one) <= shared.upTo;
    return isShared ? shared.current : (currents[circuit.path] ?? 0);
  }

  private partLines(circuit: Circuit, one: WiringPart): string[] {
    const { part, values: v, resistance, ampacity } = one;
    const amps = this.through(circuit, one);
    const current = this.say(amps, "current");
    const drop = amps * resistance;
    const lost = resistance > 0 ? [`${this.say(drop, "voltage")}, ${this.say(drop * amps, "power")}`] : [];
    switch (part.kind) {
      case "cable": {
        const several = v.count!.value > 1 ? `${v.count!.value} × ` : "";
        return [
          `${several}${this.say(v.areaMm2!.value, "area", 3)}, ${this.say(v.length!.value, "length")}`,
          `${current} of ${this.say(ampacity!.value, "current")}`,
          ...lost,
        ];
      }
      case "fuse":
        return [`${this.say(v.rating!.value, "current")} ${fuseShort(partWords(part))}`, current, ...lost];
      case "joints":
        return [`${v.contacts!.value} contacts`, current, ...lost];
      case "rcd":
        return [`${this.say(v.rating!.value, "current")}, ${this.say(v.residual!.value, "current")}`, ...lost];
      default:
        return [this.say(v.rating!.value, "current"), ...(circuit.mains ? [] : [current]), ...lost];
    }
  }

  private unit(unit: Unit, key?: string): Cell {
    const i = this.job.units.indexOf(unit);
    return this.labelled({
      key: key ?? `units.${i}`,
      symbol: "unit",
      title: unit.name,
      lines: [
        this.say(this.assessment.units[i]!.running.value, "power"),
        this.twoLegs && onMains(unit) ? legWords(unit.leg) : "",
        unit.startAid === "soft-starter" ? "soft-started" : "",
      ],
      at: `units.${i}`,
      mains: onMains(unit),
    });
  }

  private bank(): Cell {
    const { bank, wiring } = this.assessment.values;
    const parallel = bank.parallel.value;
    const fused = parallel > 1 && this.job.wiring.links.fuses === "each";
    return this.labelled({
      key: "bank",
      symbol: "bank",
      title: "Battery",
      lines: [
        `${this.say(bank.blockVoltage.value * bank.series.value, "voltage", 3)} ${this.job.bank.chemistry.toUpperCase()}`,
        this.say(bank.capacityAh.value * parallel, "charge"),
        parallel > 1 ? `${parallel} in parallel` : "",
        fused ? `each fused ${this.say(wiring.links.fuseRating.value, "current")}` : "",
      ],
      at: "bank",
    });
  }

  private inverter(): Cell {
    const { count, rating } = this.assessment.values.inverter;
    const { lanes } = this.assessment.wiring.main;
    const { output, neutralBond } = this.job.inverter;
    return this.labelled({
      key: "inverter",
      symbol: "inverter",
      title: "Inverter",
      lines: [
        `${count.value > 1 ? `${count.value} × ` : ""}${this.say(rating.value, "apparentPower")}`,
        this.twoLegs ? (output === "split-phase" ? "L1 and L2" : "one on both legs") : "",
        BONDS[neutralBond],
        lanes > 1 ? `${lanes} equal circuits` : "",
      ],
      at: "inverter",
    });
  }

  private hasBranch(role: "dc-unit" | "circuit", unit: Unit): boolean {
    return this.job.wiring.branches.some((branch) => branch.role === role && branch.unitId === unit.id);
  }

  /** Battery, main circuit, inverter, mains circuit and the units that share it. */
  mainBlock(): Block {
    const { main, mains } = this.assessment.wiring;
    const { units } = this.job;
    const fedByMains = units.filter(onMains);
    const shared = fedByMains.filter((unit) => !this.hasBranch("circuit", unit));
    const direct = units.filter((unit) => onBattery(unit) && !(this.converted && this.hasBranch("dc-unit", unit)));
    const board = this.labelled({
      key: "board",
      symbol: "link",
      title: "board",
      lines: ["to the circuits"],
      at: "wiring.mains",
      mains: true,
    });
    const behind = this.converted
      ? [
          this.inverter(),
          ...mains.parts.map((one) => this.part(mains, one)),
          ...shared.map((unit) => this.unit(unit)),
          ...(shared.length < fedByMains.length ? [board] : []),
        ]
      : [];
    const amps = this.say(this.assessment.currents["wiring.mains"] ?? 0, "current");
    return {
      heading: `${this.heading(main)}${this.converted ? `; mains ${amps}` : ""}`,
      row: [
        this.bank(),
        ...main.parts.map((one) => this.part(main, one)),
        ...behind,
        ...direct.map((unit) => this.unit(unit)),
      ],
    };
  }

  /** A circuit beside the main one, from where it joins to what is at its end. */
  branchBlock(circuit: Circuit): Block {
    const branch = circuit.branch!;
    const at = `wiring.branches.${circuit.branchIndex!}` as const;
    const own =
      branch.role === "circuit" || branch.role === "dc-unit"
        ? this.job.units.find((unit) => unit.id === branch.unitId && (branch.role === "dc-unit" || onMains(unit)))
        : undefined;
    const source = own
      ? this.unit(own, `${at}.unit`)
      : this.labelled({
          key: `${at}.source`,
          symbol: branch.role,
          title: branch.name,
          lines: [branchWords(branch)],
          at,
          mains: circuit.mains,
        });
    // The last busbar of the main circuit joins the others to it.
    const busbar = this.assessment.wiring.main.parts.findLast(({ part }) => part.kind === "busbar");
    const onDc = busbar ? `to busbar ${busbar.mark}` : "to battery";
    const link = this.labelled({
      key: `${at}.link`,
      symbol: "link",
      title: branch.role === "circuit" ? "from board" : circuit.mains ? "to transfer" : onDc,
      lines: [],
      at: circuit.mains ? "wiring.mains" : "bank",
      mains: circuit.mains,
    });
    return {
      heading: this.heading(circuit),
      row: [
        unjudged(link),
        ...circuit.parts.map((one) => this.part(circuit, one)),
        ...this.farCells(branch, at, source),
      ],
    };
  }

  /** The other side of a branch: its converter, the parts as they lie from it, and what feeds them. */
  private farCells(branch: Branch, at: BranchPath, source: Cell): Cell[] {
    const circuit = this.assessment.wiring.far.find((one) => one.branch === branch);
    const far = circuit?.far;
    if (!circuit || !far) return [source];
    const parts = circuit.parts.map((one) => this.part(circuit, one));
    const amps = this.say(this.assessment.currents[circuit.path] ?? 0, "current");
    const volts = this.say(far.volts, "voltage");
    switch (branch.role) {
      case "loads": {
        const converter = { key: `${at}.converter`, title: "DC-DC converter", lines: [volts, amps], at };
        return [this.labelled({ ...converter, symbol: "converter" }), ...parts, source];
      }
      case "engine": {
        const starter = { key: `${at}.starter`, title: "Starter battery", lines: [volts, amps], at };
        return [
          { ...source, symbol: "converter" },
          ...parts.reverse(),
          unjudged(this.labelled({ ...starter, symbol: "starter" })),
        ];
      }
      case "charger": {
        const supply = { key: `${at}.supply`, title: "from shore side", lines: [amps], at, mains: true };
        return [source, ...parts.reverse(), unjudged(this.labelled({ ...supply, symbol: "link" }))];
      }
      default: {
        const controller = { key: `${at}.controller`, title: "Controller", lines: [branch.name], at };
        const cold =
          far.highestVolts > 0 ? [`${this.say(far.highestVolts, "voltage", 3)} cold`, amps] : ["no panels yet"];
        return [
          this.labelled({ ...controller, symbol: "converter" }),
          ...parts.reverse(),
          {
            ...source,
            title: "Array",
            titleLines: ["Array"],
            lines: cold.flatMap((line) => wrapText(line, FITS, NAME_LINES)),
          },
        ];
      }
    }
  }

  private heading(circuit: Circuit): string {
    const { wiring, currents, shared } = this.assessment;
    const amps = currents[circuit.path];
    const before = shared && circuit.key === "main" ? `; ${this.say(shared.current, "current")} before the busbar` : "";
    const far = wiring.far.find(({ branch }) => branch === circuit.branch && circuit.branch !== null);
    const other = far ? `; other side ${this.say(currents[far.path] ?? 0, "current")}` : "";
    return `${circuit.title}${amps === undefined ? "" : `, at most ${this.say(amps, "current")}`}${before}${other}`;
  }
}

/** px from the line down to the end of a cell's lowest label. */
const depth = (cells: readonly Cell[]) => 22 + 14 * Math.max(...cells.map(linesBelow));

/** Places cells in rows from `top` down, wires them in series, and returns where the next block may begin. */
function placeRows(diagram: SingleLineDiagram, cells: Cell[], top: number): number {
  const middle = (column: number) => MARGIN + (column + 0.5) * DIAGRAM_CELL.width;
  let y = top + DIAGRAM_CELL.symbol / 2;
  for (let first = 0; first < cells.length; first += COLUMNS) {
    const row = cells.slice(first, first + COLUMNS);
    if (first > 0) {
      const above = y;
      y += depth(cells.slice(first - COLUMNS, first)) + 2 * RETURN + DIAGRAM_CELL.symbol / 2;
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
  return y + depth(last);
}

const BONDS: Record<Job["inverter"]["neutralBond"], string> = {
  unsaid: "",
  relay: "neutral: by relay",
  fixed: "neutral: fixed",
  none: "neutral unbonded",
};

const legWords = (leg: Job["units"][number]["leg"]) => (leg === "both" ? "L1 to L2" : leg);

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
