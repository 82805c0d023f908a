import useSWR, { type KeyedMutator, type SWRConfiguration } from "swr";
import { ApiError } from "@/contract/client";

/** What was asked of the server: undefined until it has answered; the fault where it could not be had. */
export interface ServerData<T> {
  data: T | undefined;
  fault: Error | undefined;
  /** Puts in what a change answered with, or asks again where it is given nothing. */
  mutate: KeyedMutator<T>;
}

const OPTIONS: SWRConfiguration<unknown, Error> = {
  errorRetryCount: 3,
  // What the server refuses it refuses the next time too; a broken line is tried again.
  shouldRetryOnError: (error) => !(error instanceof ApiError) || error.status >= 500,
};

/**
 * Reads something from the server through the one cache of the page: asked once however many parts of the screen show it,
 * and read anew when the window comes back. A `key` of null asks nothing.
 */
export function useServerData<T>(
  key: readonly [what: string, ...of: (string | number)[]] | null,
  read: () => Promise<T>,
): ServerData<T> {
  const { data, error, mutate } = useSWR<T, Error>(key, read, OPTIONS as SWRConfiguration<T, Error>);
  return { data, fault: error, mutate };
}
