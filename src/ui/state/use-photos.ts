"use client";

import { useCallback, useMemo, useState } from "react";
import { useAgain } from "./use-again";
import { dropPhoto, keepPhoto, sendPhotos, waitingPhotos } from "./photo-box";

/** A photo of a step as a screen shows it. */
export interface ShownPhoto {
  /** Address of the small one, and of the whole. */
  small: string;
  whole: string;
  /** Whether it is on this device alone, and why where the server refused it. */
  waits: boolean;
  refused: string | undefined;
}

export interface Photos {
  of(id: string): ShownPhoto;
  /** Keeps a photo under its id, and sends it as soon as there is a server. */
  add(id: string, photo: Blob): Promise<void>;
  /** Drops one that was not sent. */
  drop(id: string): Promise<void>;
}

type Waiting = Map<string, { address: string; refused: string | undefined }>;
const RETRY_MS = 15_000;

/** The photos of a job: those that the server has, and those that wait on this device. */
export function usePhotos(jobId: string): Photos {
  const [waiting, setWaiting] = useState<Waiting>(new Map());
  const look = useCallback(async () => {
    const found = await waitingPhotos(jobId);
    setWaiting((before) => {
      const kept = new Set(found.map(({ id }) => id));
      for (const [id, { address }] of before) if (!kept.has(id)) URL.revokeObjectURL(address);
      return new Map(
        found.map(({ id, picture, refused }) => {
          const address = before.get(id)?.address ?? URL.createObjectURL(picture);
          return [id, { address, refused }];
        }),
      );
    });
  }, [jobId]);
  const flush = useCallback(async () => {
    await look();
    await sendPhotos();
    await look();
  }, [look]);
  useAgain(flush, RETRY_MS);
  return useMemo(
    () => ({
      of(id) {
        const here = waiting.get(id);
        if (here) return { small: here.address, whole: here.address, waits: true, refused: here.refused };
        const address = `/api/jobs/${jobId}/photos/${id}`;
        return { small: `${address}?size=small`, whole: address, waits: false, refused: undefined };
      },
      async add(id, photo) {
        await keepPhoto(jobId, id, photo);
        // What it shows is there; the sending is not waited for.
        await look();
        void flush();
      },
      async drop(id) {
        await dropPhoto(id);
        await look();
      },
    }),
    [jobId, waiting, look, flush],
  );
}
