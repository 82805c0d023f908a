import { call, json } from "@/contract/client";
import { listedLinks, madeLink, type ListedLink } from "@/contract/links";

export const fetchLinks = async (jobId: string): Promise<ListedLink[]> =>
  (await call(listedLinks, `/api/jobs/${jobId}/links`)).links;
export const makeLink = (
  jobId: string,
  days: number,
): Promise<{ path: string; address: string | null; links: ListedLink[] }> =>
  call(madeLink, `/api/jobs/${jobId}/links`, json("POST", { days }));
export const withdrawLink = async (jobId: string, id: string): Promise<ListedLink[]> =>
  (await call(listedLinks, `/api/jobs/${jobId}/links/${id}`, { method: "DELETE" })).links;
