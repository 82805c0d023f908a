"use client";

import { useSyncExternalStore } from "react";

const KEY = "chillbank.theme";
type Choice = "system" | "light" | "dark";
const NEXT: Record<Choice, Choice> = { system: "dark", dark: "light", light: "system" };
const WORDS: Record<Choice, string> = { system: "theme: as system", dark: "theme: dark", light: "theme: light" };
/** Event of the window after the theme was chosen. */
export const THEME_CHANGED = "chillbank-theme";

function read(): Choice {
  try {
    const kept = localStorage.getItem(KEY);
    return kept === "dark" || kept === "light" ? kept : "system";
  } catch {
    return "system";
  }
}

function choose(next: Choice): void {
  try {
    if (next === "system") localStorage.removeItem(KEY);
    else localStorage.setItem(KEY, next);
  } catch {
    // Storage refused: the choice holds until the page is left.
  }
  if (next === "system") delete document.documentElement.dataset.theme;
  else document.documentElement.dataset.theme = next;
  window.dispatchEvent(new Event(THEME_CHANGED));
}

const subscribe = (changed: () => void) => {
  window.addEventListener(THEME_CHANGED, changed);
  return () => window.removeEventListener(THEME_CHANGED, changed);
};

/** Light, dark, or as the system has it; the browser keeps the choice. */
export function ThemeChoice() {
  const choice = useSyncExternalStore(subscribe, read, () => "system" as const);
  return (
    <button type="button" className="plain" onClick={() => choose(NEXT[choice])} data-theme-choice>
      {WORDS[choice]}
    </button>
  );
}
