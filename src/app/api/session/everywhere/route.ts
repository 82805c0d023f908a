import { handler } from "@/server/handler";
import { signOutEverywhere } from "@/server/session";

/** Signs out on every machine. */
export const DELETE = handler({ may: "look" }, (request) => signOutEverywhere(request));
