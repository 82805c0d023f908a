import { call, json } from "@/contract/client";
import { nothing } from "@/contract/common";
import {
  keptWish,
  listedRevisions,
  revisionDocument,
  type ListedRevision,
  type NewRevision,
} from "@/contract/revisions";
import type { Wish } from "@/core/applications/options/target";
import type { Rig } from "@/core/document/schema";

export const fetchWish = async (rigId: string): Promise<Wish | null> =>
  (await call(keptWish, `/api/rigs/${rigId}/wish`)).wish;
export const sendWish = (rigId: string, wish: Wish): Promise<null> =>
  call(nothing, `/api/rigs/${rigId}/wish`, json("PUT", wish));

export const fetchRevisions = async (rigId: string): Promise<ListedRevision[]> =>
  (await call(listedRevisions, `/api/rigs/${rigId}/revisions`)).revisions;
export const nameRevision = async (rigId: string, revision: NewRevision, rig: Rig): Promise<ListedRevision[]> =>
  (await call(listedRevisions, `/api/rigs/${rigId}/revisions`, json("POST", { ...revision, rig }))).revisions;
export const fetchRevision = async (rigId: string, id: string): Promise<Rig> =>
  (await call(revisionDocument, `/api/rigs/${rigId}/revisions/${id}`)).rig;
export const setRevisionDeleted = (rigId: string, id: string, deleted: boolean): Promise<null> =>
  call(nothing, `/api/rigs/${rigId}/revisions/${id}`, json("PUT", { deleted }));
