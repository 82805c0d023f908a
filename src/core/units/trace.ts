import { METRIC, type Dimension, type UnitPreferences } from "./dimension";
import { formatQuantity } from "./format";
import type { ResolvedQuantity, Origin } from "./known";

/** One number in a relation: an entered or typical quantity, another traced value, or a constant. */
export interface Term {
  symbol: string;
  name: string;
  value: number;
  dimension: Dimension;
  origin?: Origin;
  /** Path of the quantity in the document of a job. */
  path?: string;
  /** Why a typical value is what it is, or where a constant comes from. */
  why?: string;
  /** The traced value that it is the result of. */
  from?: TracedValue;
}

interface Tracing {
  /** Identifies it in the trace: `carries.inverter`. */
  key: string;
  name: string;
  value: number;
  dimension: Dimension;
  /** The relation in the terms' symbols, such as `S = V × I`. */
  relation: string;
  /** Called only where the working is asked for. */
  terms?: () => Term[];
  /** Where the rule comes from; a definition unless it is said. */
  source?: string | undefined;
}

/**
 * A computed number that can show its working: the relation that it comes from and the numbers that went into it.
 * The terms are made when they are asked for, so that a calculation nobody questions pays for none. Sent to a worker it
 * arrives without its terms; what is to be shown there is sent as a `Trace`.
 */
export class TracedValue {
  // Declared and set in the constructor alone: fields are set twice, and thousands of these are made for a verdict.
  declare readonly key: string;
  declare readonly name: string;
  declare readonly value: number;
  declare readonly dimension: Dimension;
  declare readonly relation: string;
  declare readonly source: string;
  readonly #terms: (() => Term[]) | undefined;

  constructor({ key, name, value, dimension, relation, terms, source = "definition" }: Tracing) {
    this.key = key;
    this.name = name;
    this.value = value;
    this.dimension = dimension;
    this.relation = relation;
    this.source = source;
    this.#terms = terms;
  }

  get terms(): Term[] {
    return this.#terms?.() ?? [];
  }

  /** In JSON it stands by its key: its working is in the trace beside it. */
  toJSON(): string {
    return this.key;
  }
}

/** A computed number with its working still to be asked for. */
export const traced = (tracing: Tracing) => new TracedValue(tracing);

/** A figure that is one quantity as it stands, entered or assumed: `I_n = I_1`. */
export function stated(
  { key, name, source }: Pick<Tracing, "key" | "name" | "source">,
  symbol: string,
  term: Term,
): TracedValue {
  const { value, dimension } = term;
  const relation = `${symbol} = ${term.symbol}`;
  return traced({ key, name, value, dimension, relation, terms: () => [term], source });
}

/** The working of one number, written out; its terms name the numbers that they come from by key. */
export interface Working extends Omit<Tracing, "terms" | "source"> {
  terms: WrittenTerm[];
  source: string;
}

export interface WrittenTerm extends Omit<Term, "from"> {
  /** Key of the number that it is the result of. */
  figure?: string;
}

/** A term as it is written: one that comes from nothing stands as it is. */
function writtenTerm(term: Term): WrittenTerm {
  if (!term.from) return term;
  const { from, ...written } = term;
  return { ...written, figure: from.key };
}

/** Workings by the key of their number. Plain data: it can be sent and stored. */
export type Trace = Record<string, Working>;

/** The working of some numbers, and of all that they come from. */
export function traceOf(roots: Iterable<TracedValue | null | undefined>): Trace {
  const trace: Trace = {};
  const write = (figure: TracedValue) => {
    if (trace[figure.key]) return;
    const { key, name, value, dimension, relation, source, terms } = figure;
    trace[key] = {
      key,
      name,
      value,
      dimension,
      relation,
      source,
      terms: terms.map(writtenTerm),
    };
    for (const { from } of terms) if (from) write(from);
  };
  for (const root of roots) if (root) write(root);
  return trace;
}

/** Of a result with its figures: the numbers that they are traced from, and the trace once it was asked for. */
const ROOTS = Symbol("roots");
const TRACE = Symbol("trace");

interface WithFigures {
  [ROOTS]: () => Iterable<TracedValue | null | undefined>;
  [TRACE]: Trace | undefined;
}

/*
 * One accessor for all results. An accessor in an object literal is a function of its own, and V8 makes a hidden class for
 * it: that keeps it, and the whole result behind it, until the next full collection.
 */
const FIGURES: PropertyDescriptor & ThisType<WithFigures> = {
  enumerable: true,
  get() {
    return (this[TRACE] ??= traceOf(this[ROOTS]()));
  },
};

/**
 * Gives `result` its `figures`, the trace of `roots`, written once, when it is first asked for. Sent to a worker, it arrives
 * written.
 */
export function withFigures<R extends object>(result: R, roots: WithFigures[typeof ROOTS]): R & { figures: Trace } {
  Object.assign(result, { [ROOTS]: roots, [TRACE]: undefined });
  return Object.defineProperty(result, "figures", FIGURES) as R & { figures: Trace };
}

/** A term taken from a quantity of the job. */
export function given(symbol: string, known: ResolvedQuantity): Term {
  const { label, value, dimension, origin, path, why } = known;
  return { symbol, name: label, value, dimension, origin, path, why };
}

/** A term that is the result of another calculation. */
export function of(symbol: string, from: TracedValue): Term {
  return { symbol, name: from.name, value: from.value, dimension: from.dimension, from };
}

/** A term that is a constant or a reading of a curve, with its reason. */
// oxlint-disable-next-line max-params -- one line of a working: its columns in order
export function constant(symbol: string, name: string, value: number, dimension: Dimension, why: string): Term {
  return { symbol, name, value, dimension, why };
}

/**
 * The relation with numbers in place of the symbols on its right-hand side, in metric units whatever the job's:
 * the constants of a relation belong to them.
 */
export function withNumbers(figure: Working): string {
  const at = figure.relation.indexOf("=");
  if (at < 0) return figure.relation;
  const bySymbol = new Map(figure.terms.map((term) => [term.symbol, term]));
  const right = figure.relation.slice(at + 1).replace(/\p{L}[\p{L}\p{Nd}_′]*/gu, (symbol) => {
    const term = bySymbol.get(symbol);
    return term ? formatQuantity(term.value, term.dimension, METRIC) : symbol;
  });
  return `${right.trim()} = ${formatQuantity(figure.value, figure.dimension, METRIC)}`;
}

/** A figure's working as plain text, with that of the figures beneath it down to `depth` levels. */
export function workingAsText(figures: Trace, key: string, preferences: UnitPreferences, depth = 1): string {
  const figure = figures[key];
  if (!figure) return "";
  const lines = [
    `${figure.name}: ${formatQuantity(figure.value, figure.dimension, preferences)}`,
    `  ${figure.relation}`,
    `  ${withNumbers(figure)}`,
    ...figure.terms.map((term) => {
      const from = term.origin
        ? ` [${term.origin}${term.why ? `: ${term.why}` : ""}]`
        : term.why
          ? ` (${term.why})`
          : "";
      return `    ${term.symbol}  ${term.name}: ${formatQuantity(term.value, term.dimension, preferences)}${from}`;
    }),
    `  Source: ${figure.source}`,
  ];
  if (depth > 0) {
    for (const term of figure.terms) {
      if (term.figure) lines.push(...indent(workingAsText(figures, term.figure, preferences, depth - 1)));
    }
  }
  return lines.join("\n");
}

function indent(text: string): string[] {
  return text.split("\n").map((line) => `    ${line}`);
}
