import { errorResponse, publicHandler } from "@/server/door";
import { say } from "@/core/messages/say";

/** Addresses that no route stands at. */
const nothing = publicHandler(() =>
  Promise.resolve(errorResponse({ status: 404, message: say("server.address.none") })),
);

export { nothing as GET, nothing as POST, nothing as PUT, nothing as PATCH, nothing as DELETE };
