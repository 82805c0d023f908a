import { useHotkeys, type Options } from "react-hotkeys-hook";

/** Keys act unless something is being typed; a quantity that is only focused, not opened, does not count as typing. */
const typing = (event: KeyboardEvent): boolean => {
  const target = event.target as HTMLElement | null;
  if (document.querySelector(".ant-modal-wrap:not([style*='display: none'])")) return true;
  if (target instanceof HTMLInputElement)
    return (
      target.type !== "radio" &&
      target.type !== "checkbox" &&
      !(target.readOnly && target.classList.contains("quantity"))
    );
  return (
    target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement || (target?.isContentEditable ?? false)
  );
};

const OPTIONS: Options = { enableOnFormTags: true, ignoreEventWhen: typing, preventDefault: true, useKey: true };

/** Binds one key or several (by the character typed) to an action. */
export function useKey(keys: string, action: (event: KeyboardEvent) => void, dependencies: unknown[] = []): void {
  useHotkeys(keys, action, OPTIONS, [action, ...dependencies]);
}
