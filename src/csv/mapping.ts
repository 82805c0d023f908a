import { z } from "zod";
import { isTimeZone } from "../core/units/clock";
import { COLUMNS } from "../core/applications/test-run/log/readings";
import type { Mapping } from "../core/applications/test-run/log/recognise";

/** The Zod schema of a table's mapping, for what comes back from the browser. */
export const mappingSchema: z.ZodType<Mapping> = z.strictObject({
  columns: z
    .array(
      z.strictObject({
        meaning: z.enum([...COLUMNS, "time", "date", "battery_power_w", "solar_current_a", "note", "none"]),
        factor: z.number().min(-1e6).max(1e6),
        offset: z.number().min(-1e6).max(1e6),
      }),
    )
    .min(1)
    .max(400),
  decimalComma: z.boolean(),
  time: z.enum([
    "iso",
    "local",
    "day-first",
    "month-first",
    "unix-s",
    "unix-ms",
    "elapsed-s",
    "elapsed-min",
    "elapsed-clock",
  ]),
  timeZone: z.string().max(60).refine(isTimeZone, { error: "not a time zone" }),
  startMs: z.number().nullable(),
  sign: z.union([z.literal(1), z.literal(-1)]),
});
