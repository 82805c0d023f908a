import { z } from "zod";
import { idSchema } from "./common";

/** Days that a link to a customer's page may be good for. */
export const LINK_DAYS = [30, 90, 365] as const;
export const newLink = z.strictObject({
  days: z.union(
    LINK_DAYS.map((days) => z.literal(days)),
    { error: "30, 90 or 365 days" },
  ),
});

/** A link as the workshop sees it: its address is shown once, when it is made. */
export const listedLink = z.object({
  id: idSchema,
  createdMs: z.number(),
  expiresMs: z.number(),
  withdrawn: z.boolean(),
});
export type ListedLink = z.infer<typeof listedLink>;

export const listedLinks = z.object({ links: z.array(listedLink) });
export const madeLink = listedLinks.extend({
  path: z.string(),
  /** The whole address that customers reach it by; null where this installation answers its own machine alone. */
  address: z.string().nullable(),
});
