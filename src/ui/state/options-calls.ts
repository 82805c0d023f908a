import { call, json } from "@/contract/client";
import { nothing } from "@/contract/common";
import {
  keptRequirement,
  listedRevisions,
  revisionDocument,
  type ListedRevision,
  type NewRevision,
} from "@/contract/revisions";
import type { Requirement } from "@/core/applications/options/target";
import type { Job } from "@/core/document/schema";

export const fetchRequirement = async (jobId: string): Promise<Requirement | null> =>
  (await call(keptRequirement, `/api/jobs/${jobId}/requirement`)).requirement;
/** With `keepalive` it arrives though the page is being left. */
export const sendRequirement = (jobId: string, requirement: Requirement, keepalive = false): Promise<null> =>
  call(nothing, `/api/jobs/${jobId}/requirement`, { ...json("PUT", requirement), keepalive });

export const fetchRevisions = async (jobId: string): Promise<ListedRevision[]> =>
  (await call(listedRevisions, `/api/jobs/${jobId}/revisions`)).revisions;
export const nameRevision = async (jobId: string, revision: NewRevision, job: Job): Promise<ListedRevision[]> =>
  (await call(listedRevisions, `/api/jobs/${jobId}/revisions`, json("POST", { ...revision, job }))).revisions;
export const fetchRevision = async (jobId: string, id: string): Promise<Job> =>
  (await call(revisionDocument, `/api/jobs/${jobId}/revisions/${id}`)).job;
export const setRevisionDeleted = (jobId: string, id: string, deleted: boolean): Promise<null> =>
  call(nothing, `/api/jobs/${jobId}/revisions/${id}`, json("PUT", { deleted }));
