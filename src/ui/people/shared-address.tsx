"use client";

import { App, Button, QRCode } from "antd";
import { say } from "@/core/messages/say";
import { useBase } from "./account";

/**
 * An address to hand to somebody: to click, to copy, and as a code for a phone's camera. Where this Chillbank is known by no
 * address beyond this machine it says so, and shows no code that a phone could not open.
 */
export function SharedAddress({ path, label }: { path: string; label: string }) {
  const base = useBase();
  const { message } = App.useApp();
  const address = new URL(path, base ?? window.location.href).href;
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(address);
      void message.success("Copied");
    } catch {
      void message.info(say("interface.browserDoesNotAllow"));
    }
  };
  return (
    <div className="shared-address">
      {base && <QRCode type="svg" value={address} size={132} bordered={false} aria-label={`${label}, as a code`} />}
      <p>
        <a href={address} target="_blank" rel="noreferrer" className="mono" aria-label={label}>
          {address}
        </a>{" "}
        <Button size="small" onClick={() => void copy()}>
          Copy
        </Button>
        {!base && <span className="problem note"> {say("interface.link.onlyHere")}</span>}
      </p>
    </div>
  );
}
