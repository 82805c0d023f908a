import { ruleSetOf } from "../../document/defaults";
import type { Job } from "../../document/schema";
import { CAUSES, SYMPTOMS } from "./causes";
import { READINGS, type ReadingKey } from "./readings";

/*
 * Names of symptoms, causes and readings in the terms of the job's region: an RCD and earth where it has those, a GFCI and
 * ground where it has these. A key that is not known any more stands for itself: a finding outlives the tables.
 */

const inRegion = (text: string, job: Job): string => {
  const { residualName, earth } = ruleSetOf(job);
  return text.replaceAll("{residualName}", residualName).replaceAll("{earth}", earth);
};

export const symptomName = (key: string, job: Job): string =>
  inRegion((SYMPTOMS as Record<string, string>)[key] ?? key, job);

export const causeName = (key: string, job: Job): string =>
  inRegion((CAUSES as Record<string, { name: string }>)[key]?.name ?? key, job);

export const readingLabel = (key: ReadingKey, job: Job): string => inRegion(READINGS[key].label, job);
