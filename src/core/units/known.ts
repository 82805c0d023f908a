import { z } from "zod";
import type { Dimension } from "./dimension";

/**
 * Where a value comes from, worst to best: assumed (a typical value or a guess), plate (name plate,
 * data sheet or what the customer said), fitted (found from a measured run), measured.
 */
export const ORIGINS = ["assumed", "plate", "fitted", "measured"] as const;
export type Origin = (typeof ORIGINS)[number];

/** A quantity as the document stores it: only what somebody entered; typical values stay out of it. */
export interface Quantity {
  value: number;
  origin: Origin;
}

/** What the sheet knows of a quantity once typical values have filled the gaps. */
export interface ResolvedQuantity extends Quantity {
  /** Path in the document, dots between steps: `units.0.runningCurrent`. */
  path: string;
  label: string;
  dimension: Dimension;
  /** For a typical value, how it came about; empty for an entered one. */
  why: string;
  /** False where the document holds no entry and `value` is the typical one. */
  entered: boolean;
}

/** A typical value with the reason a reader is shown. */
export interface DefaultValue {
  value: number;
  why: string;
}

export interface FieldSpec {
  label: string;
  dimension: Dimension;
  /** Plausible range, shown on focus: a value outside is allowed and remarked on. */
  low: number;
  high: number;
  /** Hard limits in the core's unit: a value outside is refused. */
  min: number;
  max: number;
  /** How to get a better value: instrument and place. */
  measure?: string;
  /** One line of what the words mean, where the trade uses them in two ways. */
  note?: string;
}

/** The Zod schema of one stored quantity, with its hard limits and the label in the message. */
export function quantitySchema(spec: FieldSpec) {
  const whole = spec.dimension === "count";
  const number = z
    .number({ error: `${spec.label}: not a finite number` })
    .min(spec.min, { error: `${spec.label}: at least ${spec.min} expected` })
    .max(spec.max, { error: `${spec.label}: at most ${spec.max} expected` });
  return z.strictObject({
    value: whole ? number.int({ error: `${spec.label}: a whole number expected` }) : number,
    origin: z.enum(ORIGINS),
  });
}

/** A schema object with one optional quantity for each field of a group. */
export function groupShape<F extends Record<string, FieldSpec>>(
  fields: F,
): { [K in keyof F]: z.ZodOptional<ReturnType<typeof quantitySchema>> } {
  const shape = Object.entries(fields).map(([key, spec]) => [key, quantitySchema(spec).optional()]);
  return Object.fromEntries(shape) as { [K in keyof F]: z.ZodOptional<ReturnType<typeof quantitySchema>> };
}
