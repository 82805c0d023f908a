import { cache } from "react";
import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { database } from "@/server/database";
import { idSchema } from "@/contract/common";
import { getRig } from "@/server/rigs";
import { getTrial } from "@/server/trials";
import { PhoneTrial } from "@/ui/phone/phone-trial";

interface Props {
  params: Promise<{ id: string }>;
}

const find = cache(async (id: string) => {
  if (!idSchema.safeParse(id).success) return null;
  const trial = await getTrial(database(), id);
  const job = trial && (await getRig(database(), trial.rigId));
  return trial && job ? { trial, job } : null;
});

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await find((await params).id);
  return { title: found ? `${found.trial.name}, ${found.job.rig.name}` : "No such test run" };
}

/** Readings on a phone: one in under ten seconds. */
export default async function PhonePage({ params }: Props) {
  const found = await find((await params).id);
  if (!found) notFound();
  const { trial, job } = found;
  return (
    <PhoneTrial
      trialId={trial.id}
      name={trial.name}
      startedMs={trial.startedMs}
      finished={trial.finishedMs !== null}
      rigId={job.id}
      rig={job.rig}
    />
  );
}
