"use client";

import { Button } from "antd";
import { useState } from "react";
import { say } from "@/core/messages/say";
import { STEPS_HIDDEN } from "./steps-hidden";

const A_YEAR_S = 365 * 24 * 3600;

/** Three steps for whoever opens the application first; gone for good once put away. */
export function FirstSteps({ shown }: { shown: boolean }) {
  const [open, setOpen] = useState(shown);
  if (!open) return null;
  const hide = () => {
    document.cookie = `${STEPS_HIDDEN}=1; path=/; max-age=${A_YEAR_S}; samesite=lax`;
    setOpen(false);
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
      <Button size="small" onClick={hide}>
        Hide these steps
      </Button>
    </section>
  );
}
