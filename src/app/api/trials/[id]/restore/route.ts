import { database } from "@/server/database";
import { handler } from "@/server/door";
import { missingTrial } from "@/server/trial-door";
import { restoreTrial } from "@/server/trials";

/** Brings a deleted trial back. */
export const POST = handler<{ id: string }>(async (_, { id }) =>
  (await restoreTrial(database(), id)) ? new Response(null, { status: 204 }) : missingTrial(),
);
