import { z } from "zod";
import { database } from "@/server/database";
import { foreign, readBody, refuse } from "@/server/door";
import { jobsUsing, partsOf, updateJobs } from "@/server/parts";
import { idSchema } from "@/server/rigs";

interface Context {
  params: Promise<{ id: string }>;
}
const missing = () => refuse({ status: 404, message: "There is no such part." });
const chosenSchema = z.object({
  jobs: z.array(z.object({ id: idSchema, revision: z.int().min(1).max(4_000_000_000) })).max(200),
});

/** The jobs that use a part, with their verdicts now and with the part as it stands. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  const [part] = idSchema.safeParse(id).success ? await partsOf(database(), [id]) : [];
  return part ? Response.json({ jobs: await jobsUsing(database(), part) }) : missing();
}

/** Brings the chosen jobs to the part as it stands: `{ "jobs": [{ "id", "revision" }] }`. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  const [part] = idSchema.safeParse(id).success ? await partsOf(database(), [id]) : [];
  if (!part) return missing();
  const read = await readBody(request);
  if (!read.ok) return refuse(read.refusal);
  const chosen = chosenSchema.safeParse(read.body);
  if (!chosen.success)
    return refuse({
      status: 400,
      message: "jobs: a list of ids and revisions expected",
      faults: chosen.error.issues.map(({ path, message }) => ({ path: path.join("."), message })),
    });
  return Response.json({ updated: await updateJobs(database(), part, chosen.data.jobs) });
}
