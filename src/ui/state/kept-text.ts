"use client";

import { useSyncExternalStore } from "react";

/** Texts kept in this browser by key; held here too, for where its storage is full or refused. */
const held = new Map<string, string>();
const listeners = new Set<() => void>();

function read(key: string): string {
  const own = held.get(key);
  if (own !== undefined) return own;
  try {
    return localStorage.getItem(key) ?? "";
  } catch {
    return "";
  }
}

export function keepText(key: string, text: string): void {
  held.set(key, text);
  try {
    localStorage.setItem(key, text);
  } catch {
    // It lives as long as this page.
  }
  listeners.forEach((told) => told());
}

function subscribe(told: () => void): () => void {
  listeners.add(told);
  return () => listeners.delete(told);
}

/** A kept text, empty where there is none and while the server draws the page. */
export const useKeptText = (key: string): string =>
  useSyncExternalStore(
    subscribe,
    () => read(key),
    () => "",
  );
