import { call, json } from "@/contract/client";
import { listedLinks, madeLink, type ListedLink } from "@/contract/links";

export const fetchLinks = async (rigId: string): Promise<ListedLink[]> =>
  (await call(listedLinks, `/api/rigs/${rigId}/links`)).links;
export const makeLink = (rigId: string, days: number): Promise<{ path: string; links: ListedLink[] }> =>
  call(madeLink, `/api/rigs/${rigId}/links`, json("POST", { days }));
export const withdrawLink = async (rigId: string, id: string): Promise<ListedLink[]> =>
  (await call(listedLinks, `/api/rigs/${rigId}/links/${id}`, { method: "DELETE" })).links;
