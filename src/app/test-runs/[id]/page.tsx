import { cache } from "react";
import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { database } from "@/server/database";
import { idSchema } from "@/contract/common";
import { owns } from "@/server/owns";
import { whoSignedIn, whoVisits } from "@/server/page-who";
import { getJob } from "@/server/jobs";
import { getTestRun } from "@/server/test-runs";
import { PhoneTestRun } from "@/ui/phone/phone-test-run";

interface Props {
  params: Promise<{ id: string }>;
}

const find = cache(async (id: string) => {
  const who = await whoVisits();
  if (!who || !idSchema.safeParse(id).success || !(await owns(who, "testRun", id))) return null;
  const testRun = await getTestRun(database(), id);
  const job = testRun && (await getJob(database(), testRun.jobId));
  return testRun && job ? { testRun, job } : null;
});

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await find((await params).id);
  return { title: found ? `${found.testRun.name}, ${found.job.job.name}` : "No such test run" };
}

/** Readings on a phone: one in under ten seconds. */
export default async function PhonePage({ params }: Props) {
  const { id } = await params;
  await whoSignedIn(`/test-runs/${id}`);
  const found = await find(id);
  if (!found) notFound();
  const { testRun, job } = found;
  return (
    <PhoneTestRun
      testRunId={testRun.id}
      name={testRun.name}
      startedMs={testRun.startedMs}
      finished={testRun.finishedMs !== null}
      source={testRun.source}
      conditions={testRun.conditions}
      jobId={job.id}
      job={job.job}
    />
  );
}
