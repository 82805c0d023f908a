"use client";

import { Button } from "antd";
import { useSyncExternalStore } from "react";
import { say } from "@/core/messages/say";

const KEY = "chillbank.guide";
const DISMISSED = "chillbank-guide";

const shown = (): boolean => {
  try {
    return localStorage.getItem(KEY) !== "done";
  } catch {
    return true;
  }
};
const subscribe = (changed: () => void) => {
  window.addEventListener(DISMISSED, changed);
  return () => window.removeEventListener(DISMISSED, changed);
};

/** Three steps for whoever opens the application first; gone for good once dismissed. */
export function FirstSteps() {
  const open = useSyncExternalStore(subscribe, shown, () => false);
  if (!open) return null;
  const dismiss = () => {
    try {
      localStorage.setItem(KEY, "done");
    } catch {
      // Storage refused: it is shown again with the next page.
    }
    window.dispatchEvent(new Event(DISMISSED));
  };
  return (
    <section className="guide" aria-label="First steps">
      <strong>New here? Three steps to an answer</strong>
      <ol>
        <li>
          <b>1. Place and hours</b>
          {say("interface.firstSteps.place")}
        </li>
        <li>
          <b>2. Plates and readings</b>
          {say("interface.firstSteps.plates")}
        </li>
        <li>
          <b>3. Four verdicts</b>
          {say("interface.firstSteps.verdicts")}
        </li>
      </ol>
      <Button size="small" onClick={dismiss}>
        Hide these steps
      </Button>
    </section>
  );
}
