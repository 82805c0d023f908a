"use client";

import type { JobPath } from "@/core/document/path";
import { useParams } from "next/navigation";
import { useCallback } from "react";
import { stageOfPath } from "@/core/document/stage";

/** Goes to the stage on which a document path is entered. */
export function useShowStage(): (path: JobPath) => void {
  const { id } = useParams<{ id: string }>();
  return useCallback((path: JobPath) => window.history.pushState(null, "", `/jobs/${id}/${stageOfPath(path)}`), [id]);
}
