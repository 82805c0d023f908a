import { errorResponse, publicHandler } from "@/server/handler";
import { say } from "@/core/messages/say";

const refuse = publicHandler(() =>
  Promise.resolve(errorResponse({ status: 404, message: say("server.address.none") })),
);
/** Addresses that no route stands at. */
const nothing = (request: Request) => refuse(request, { params: Promise.resolve({}) });

export { nothing as GET, nothing as POST, nothing as PUT, nothing as PATCH, nothing as DELETE };
