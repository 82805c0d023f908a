import { useSyncExternalStore } from "react";

const never = () => () => undefined;

/**
 * Whether the page's scripts have taken over what the server sent. Before that a form would be sent by the browser itself, and
 * what was typed in it would be gone: forms are disabled until then.
 */
export const useHydrated = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
