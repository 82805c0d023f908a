import { database } from "@/server/database";
import { door } from "@/server/door";
import { listTrials } from "@/server/trials";

/** Every trial of the workshop, for what was predicted against what happened. */
export const GET = door(async () => Response.json({ trials: await listTrials(database(), null) }));
