import { connection } from "next/server";
import { SHELF_KIND_KEYS, type ShelfKindKey } from "@/core/applications/parts/shelf";
import { database } from "@/server/database";
import { whoSignedIn } from "@/server/page-who";
import { listParts } from "@/server/parts";
import { PartsShelf } from "@/ui/shelf/parts-shelf";

export const metadata = { title: "Parts shelf" };

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}
const first = (value: string | string[] | undefined) => (Array.isArray(value) ? value[0] : value) ?? "";

export default async function PartsPage({ searchParams }: Props) {
  await connection();
  const { workshopId } = await whoSignedIn("/parts");
  const parameters = await searchParams;
  const query = first(parameters.q).slice(0, 200);
  const asked = first(parameters.kind) as ShelfKindKey;
  const kind = SHELF_KIND_KEYS.includes(asked) ? asked : "unit";
  return <PartsShelf {...await listParts(database(), workshopId, { kind, query })} kind={kind} query={query} />;
}
