import { database } from "@/server/database";
import { handler, entryOfBody, readBody, errorResponse } from "@/server/handler";
import { idSchema } from "@/contract/common";
import { createPart, listParts, partsOf } from "@/server/parts";
import { SHELF_KIND_KEYS, type ShelfKindKey } from "@/core/applications/parts/shelf";
import { asAllowed } from "@/server/rights";

/** Parts of the shelf: `?kind=` and `?q=`, or those of `?ids=` divided by commas. */
export const GET = handler({ may: "look" }, async (request, _, { workshopId }) => {
  const { searchParams } = new URL(request.url);
  const ids = searchParams.get("ids");
  if (ids !== null) {
    const list = ids.split(",").slice(0, 200);
    if (!list.every((id) => idSchema.safeParse(id).success))
      return errorResponse({ status: 400, message: "ids: ids of parts, divided by commas, expected" });
    const parts = await partsOf(database(), workshopId, list);
    return Response.json({ parts, total: parts.length });
  }
  const kind = searchParams.get("kind");
  if (kind !== null && !SHELF_KIND_KEYS.includes(kind as ShelfKindKey))
    return errorResponse({ status: 400, message: `kind: one of ${SHELF_KIND_KEYS.join(", ")} expected` });
  return Response.json(
    await listParts(database(), workshopId, {
      kind: kind as ShelfKindKey | null,
      query: (searchParams.get("q") ?? "").slice(0, 200),
    }),
  );
});

/** Puts a part on the shelf: `{ "entry": … }`. */
export const POST = handler({ may: "stock" }, async (request, _, who) => {
  const read = await readBody(request);
  if (!read.ok) return errorResponse(read.refusal);
  const entry = entryOfBody(read.body);
  if (!entry.ok) return errorResponse(entry.refusal);
  const made = await asAllowed(who, "stock", (tx) => createPart(tx, who.workshopId, entry.entry));
  return Response.json(made, { status: 201 });
});
