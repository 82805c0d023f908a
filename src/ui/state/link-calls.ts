import { ask, json } from "./server-calls";

/** A link to a customer's page, as the workshop sees it. */
export interface CustomerLink {
  id: string;
  createdMs: number;
  expiresMs: number;
  withdrawn: boolean;
}

export const fetchLinks = async (rigId: string): Promise<CustomerLink[]> =>
  (await ask<{ links: CustomerLink[] }>(`/api/rigs/${rigId}/links`)).links;
export const makeLink = (rigId: string, days: number): Promise<{ path: string; links: CustomerLink[] }> =>
  ask(`/api/rigs/${rigId}/links`, json("POST", { days }));
export const withdrawLink = async (rigId: string, id: string): Promise<CustomerLink[]> =>
  (await ask<{ links: CustomerLink[] }>(`/api/rigs/${rigId}/links/${id}`, { method: "DELETE" })).links;
