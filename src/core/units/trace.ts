import { METRIC, type Dimension, type UnitPreferences } from "./dimension";
import { formatQuantity } from "./format";
import type { ResolvedQuantity, Origin } from "./known";

/** One number in a relation: an entered or typical quantity, another figure, or a constant. */
export interface Term {
  symbol: string;
  name: string;
  value: number;
  dimension: Dimension;
  origin?: Origin;
  /** Path of the quantity in the rig document. */
  path?: string;
  /** Why a typical value is what it is, or where a constant comes from. */
  why?: string;
  /** Key of the figure it comes from. */
  figure?: string;
}

/** A computed number that carries its working. */
export interface TracedValue {
  key: string;
  name: string;
  value: number;
  dimension: Dimension;
  /** The relation in the terms' symbols, such as `S = V × I`. */
  relation: string;
  terms: Term[];
  /** Where the rule comes from. */
  source: string;
}

export type Trace = Record<string, TracedValue>;

/** Adds a figure to the ledger and returns it. */
export function record(
  figures: Trace,
  key: string,
  name: string,
  dimension: Dimension,
  value: number,
  relation: string,
  terms: Term[],
  source = "definition",
): TracedValue {
  return (figures[key] = { key, name, value, dimension, relation, terms, source });
}

/** A term taken from a quantity of the rig. */
export function given(symbol: string, known: ResolvedQuantity): Term {
  const { label, value, dimension, origin, path, why } = known;
  return { symbol, name: label, value, dimension, origin, path, why };
}

/** A term taken from another figure. */
export function of(symbol: string, figure: TracedValue): Term {
  return { symbol, name: figure.name, value: figure.value, dimension: figure.dimension, figure: figure.key };
}

/** A term that is a constant or a reading of a curve, with its reason. */
export function constant(symbol: string, name: string, value: number, dimension: Dimension, why: string): Term {
  return { symbol, name, value, dimension, why };
}

/**
 * The relation with numbers in place of the symbols on its right-hand side, in metric units whatever the job's:
 * the constants of a relation belong to them.
 */
export function withNumbers(figure: TracedValue): string {
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
