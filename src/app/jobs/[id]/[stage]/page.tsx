import { cache } from "react";
import type { Metadata } from "next";
import { notFound, permanentRedirect } from "next/navigation";
import { database } from "@/server/database";
import { idSchema } from "@/contract/common";
import { owns } from "@/server/owns";
import { whoSignedIn, whoVisits } from "@/server/page-who";
import { getJob } from "@/server/jobs";
import { Sheet } from "@/ui/sheet/sheet";
import { isStage, stageOfFormer } from "@/ui/stages/stages";

interface Props {
  params: Promise<{ id: string; stage: string }>;
}

/** The job of that id, where it is of the workshop of whoever visits. */
const find = cache(async (id: string) => {
  const who = await whoVisits();
  const own = who && idSchema.safeParse(id).success && (await owns(who, "job", id));
  return own ? getJob(database(), id) : null;
});

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await find((await params).id);
  return { title: found?.job.name ?? "No such job" };
}

export default async function SheetPage({ params }: Props) {
  const { id, stage } = await params;
  const former = stageOfFormer(stage);
  if (former) permanentRedirect(`/jobs/${encodeURIComponent(id)}/${former}`);
  await whoSignedIn(`/jobs/${id}/${stage}`);
  const found = await find(id);
  if (!found || !isStage(stage)) notFound();
  return <Sheet key={id} id={id} revision={found.revision} job={found.job} />;
}
