import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { restorePart } from "@/server/parts";

const GONE = "There is no such part to bring back.";

export const POST = door<{ id: string }>(
  async (_, { id }) =>
    (await restorePart(database(), id)) ? new Response(null, { status: 204 }) : refuse({ status: 404, message: GONE }),
  GONE,
);
