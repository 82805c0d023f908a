import { database } from "@/server/database";
import { handler } from "@/server/door";
import { listTrials } from "@/server/trials";

/** Every trial of the workshop, for what was predicted against what happened. */
export const GET = handler(async () => Response.json({ trials: await listTrials(database(), null) }));
