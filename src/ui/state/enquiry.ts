"use client";

import { useCallback, useMemo } from "react";
import { z } from "zod";
import { SYMPTOMS, type SymptomKey } from "@/core/applications/fault-finding/causes";
import { READINGS, type ReadingKey } from "@/core/applications/fault-finding/readings";
import { keepText, useKeptText } from "./kept-text";

/** A fault that is being looked for: kept in this browser until it ends in a finding. */
export interface Enquiry {
  symptoms: SymptomKey[];
  /** The fields of each reading, in the order in which they were taken. */
  readings: { reading: ReadingKey; fields: number[] }[];
  /** Seed of the practice case that is open. */
  practiceCase: number | null;
}

export const NO_ENQUIRY: Enquiry = { symptoms: [], readings: [], practiceCase: null };

const isIn =
  <K extends string>(table: Record<K, unknown>) =>
  (key: string): key is K =>
    Object.hasOwn(table, key);
const keptSchema = z.object({
  symptoms: z.array(z.string().refine(isIn(SYMPTOMS))).max(4),
  readings: z
    .array(z.object({ reading: z.string().refine(isIn(READINGS)), fields: z.array(z.number()).min(1).max(4) }))
    .max(60),
  practiceCase: z.number().nullable(),
});
const keyOf = (id: string) => `chillbank.enquiry.${id}`;

/** The enquiry in a kept text; none where it is none. */
function enquiryIn(text: string): Enquiry {
  try {
    const read = keptSchema.safeParse(JSON.parse(text));
    return read.success ? (read.data as Enquiry) : NO_ENQUIRY;
  } catch {
    return NO_ENQUIRY;
  }
}

export const keepEnquiry = (id: string, enquiry: Enquiry): void => keepText(keyOf(id), JSON.stringify(enquiry));

/** The enquiry of a job, and how it is changed. */
export function useEnquiry(id: string): [Enquiry, (next: Enquiry) => void] {
  const text = useKeptText(keyOf(id));
  const enquiry = useMemo(() => enquiryIn(text), [text]);
  const change = useCallback((next: Enquiry) => keepEnquiry(id, next), [id]);
  return [enquiry, change];
}
