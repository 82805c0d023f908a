import { cookies } from "next/headers";
import { connection } from "next/server";
import { database } from "@/server/database";
import { whoSignedIn } from "@/server/page-who";
import { listJobs, PAGE_SIZE } from "@/server/jobs";
import { workOutSoon } from "@/server/verdict-queue";
import { JobList } from "@/ui/jobs/job-list";
import { STEPS_HIDDEN } from "@/ui/jobs/steps-hidden";

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}
const first = (value: string | string[] | undefined) => (Array.isArray(value) ? value[0] : value) ?? "";

export default async function JobsPage({ searchParams }: Props) {
  await connection();
  const { workshopId } = await whoSignedIn("/");
  const parameters = await searchParams;
  const query = first(parameters.q).slice(0, 200);
  const asked = Math.min(100_000, Math.max(1, Math.trunc(Number(first(parameters.page))) || 1));
  let page = asked;
  let found = await listJobs(database(), workshopId, { query, page });
  const pages = Math.max(1, Math.ceil(found.total / PAGE_SIZE));
  if (page > pages) {
    page = pages;
    found = await listJobs(database(), workshopId, { query, page });
  }
  // Somebody looks at them: what is out of date is worked out now, and the list asks again.
  workOutSoon(
    database(),
    found.rows.filter(({ summary }) => !summary).map(({ id }) => id),
  );
  const jobs = found.rows.map((row) => ({ ...row, updatedAt: row.updatedAt.toISOString() }));
  return (
    <JobList
      jobs={jobs}
      unreadable={found.unreadable}
      query={query}
      page={page}
      pages={pages}
      total={found.total}
      firstSteps={!(await cookies()).has(STEPS_HIDDEN)}
    />
  );
}
