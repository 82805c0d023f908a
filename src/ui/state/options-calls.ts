import type { ListedRevision } from "@/core/applications/options/revision";
import type { Wish } from "@/core/applications/options/target";
import type { Rig } from "@/core/document/schema";
import { ask, json } from "./server-calls";

export const fetchWish = async (rigId: string): Promise<Wish | null> =>
  (await ask<{ wish: Wish | null }>(`/api/rigs/${rigId}/wish`)).wish;
export const sendWish = (rigId: string, wish: Wish): Promise<null> => ask(`/api/rigs/${rigId}/wish`, json("PUT", wish));

export const fetchRevisions = async (rigId: string): Promise<ListedRevision[]> =>
  (await ask<{ revisions: ListedRevision[] }>(`/api/rigs/${rigId}/revisions`)).revisions;
export const nameRevision = async (
  rigId: string,
  revision: { id: string; name: string; promise: string },
  rig: Rig,
): Promise<ListedRevision[]> =>
  (await ask<{ revisions: ListedRevision[] }>(`/api/rigs/${rigId}/revisions`, json("POST", { ...revision, rig })))
    .revisions;
export const fetchRevision = async (rigId: string, id: string): Promise<Rig> =>
  (await ask<{ rig: Rig }>(`/api/rigs/${rigId}/revisions/${id}`)).rig;
export const setRevisionDeleted = (rigId: string, id: string, deleted: boolean): Promise<null> =>
  ask(`/api/rigs/${rigId}/revisions/${id}`, json("PUT", { deleted }));
