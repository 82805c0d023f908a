import type { Metadata } from "next";
import { roleMay } from "@/contract/people";
import { database } from "@/server/database";
import { deletedJobs, KEPT_DAYS } from "@/server/erasure";
import { whoSignedIn } from "@/server/page-who";
import { DeletedJobs } from "@/ui/jobs/deleted-jobs";

export const metadata: Metadata = { title: "Deleted jobs" };

export default async function DeletedPage() {
  const who = await whoSignedIn("/deleted");
  const jobs = (await deletedJobs(database(), who.workshopId)).map(({ deletedAt, ...job }) => ({
    ...job,
    deletedAt: deletedAt.toISOString(),
    until: new Date(deletedAt.getTime() + KEPT_DAYS * 86_400_000).toISOString(),
  }));
  const may = { restore: roleMay(who.role, "design"), erase: roleMay(who.role, "manage") };
  return <DeletedJobs jobs={jobs} may={may} days={KEPT_DAYS} />;
}
