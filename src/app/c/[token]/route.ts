import { customerHtml, NO_PAGE } from "@/server/papers/customer-html";
import { database } from "@/server/database";
import { publicHandler } from "@/server/handler";
import { pageOfToken } from "@/server/links";

const HEADERS = {
  "content-type": "text/html; charset=utf-8",
  "cache-control": "no-store",
  "referrer-policy": "no-referrer",
  "x-robots-tag": "noindex, nofollow",
  "content-security-policy": "default-src 'none'; style-src 'unsafe-inline'",
};

/** A customer's page by its link. */
export const GET = publicHandler<{ token: string }>(async (_, { token }) => {
  const page = await pageOfToken(database(), token);
  return page
    ? new Response(customerHtml(page), { headers: HEADERS })
    : new Response(NO_PAGE, { status: 404, headers: HEADERS });
});
