import { z } from "zod";
import { mappingSchema } from "@/csv/mapping";
import { database } from "@/server/database";
import { handler, readAs, errorResponse } from "@/server/door";
import { keepMapping, keptMapping } from "@/server/trials";

const header = z.string().min(1).max(20_000);

/** The mapping last used for a header line: `{ "header": … }`. */
export const POST = handler(async (request) => {
  const read = await readAs(request, z.strictObject({ header }));
  if (!read.ok) return errorResponse(read.refusal);
  return Response.json({ mapping: await keptMapping(database(), read.value.header) });
});

/** Keeps a mapping for next time. */
export const PUT = handler(async (request) => {
  const read = await readAs(request, z.strictObject({ header, mapping: mappingSchema }));
  if (!read.ok) return errorResponse(read.refusal);
  await keepMapping(database(), read.value.header, read.value.mapping);
  return new Response(null, { status: 204 });
});
