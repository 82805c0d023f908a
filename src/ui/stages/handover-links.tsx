"use client";

import { App, Button, Select } from "antd";
import { useState } from "react";
import { SharedAddress } from "../people/shared-address";
import { fetchLinks, makeLink, withdrawLink } from "../state/link-calls";
import { type ListedLink } from "@/contract/links";
import { useSheet } from "../state/sheet-context";
import { moment } from "../words";
import { Group } from "./parts";
import { say } from "@/core/messages/say";
import { useServerData } from "../state/server-data";

const DAYS = [
  { value: 30, label: "for 30 days" },
  { value: 90, label: "for 90 days" },
  { value: 365, label: "for a year" },
];
const dayOf = (ms: number) => new Date(ms).toISOString().slice(0, 10);

/** Pages for the customer by a link: made, copied once, withdrawn. */
export function CustomerLinks() {
  const id = useSheet((state) => state.id);
  const saved = useSheet((state) => state.save.kind === "saved");
  const { message } = App.useApp();
  const { data: links, fault, mutate } = useServerData<ListedLink[]>(["links", id], () => fetchLinks(id));
  const [days, setDays] = useState(365);
  const [made, setMade] = useState<string | null>(null);
  const [making, setMaking] = useState(false);
  const make = async () => {
    setMaking(true);
    try {
      const { path, links: list } = await makeLink(id, days);
      setMade(path);
      void mutate(list, false);
    } catch (error) {
      void message.error((error as Error).message);
    }
    setMaking(false);
  };
  const withdraw = async (link: string) => {
    try {
      void mutate(await withdrawLink(id, link), false);
      setMade(null);
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  const good = (links ?? []).filter(({ withdrawn, expiresMs }) => !withdrawn && expiresMs > moment());
  return (
    <Group title="Customer’s page" note={good.length > 0 ? `${good.length} in use` : undefined}>
      <p className="note">{say("interface.stopsCardRunTime")}</p>
      {fault && <p className="problem">{fault.message}</p>}
      <div className="buttons">
        <Button onClick={() => void make()} loading={making} disabled={!saved}>
          Make a link
        </Button>
        <Select aria-label="Good for" value={days} options={DAYS} onChange={setDays} style={{ width: 130 }} />
      </div>
      {made && (
        <div className="made-link" role="status">
          <SharedAddress path={made} label="The customer’s page" />
          <p className="note">{say("interface.linkShownOnlyOnce")}</p>
        </div>
      )}
      <ul className="links" aria-label="Links in use">
        {good.map((link) => (
          <li key={link.id}>
            <span>
              of {dayOf(link.createdMs)}, until {dayOf(link.expiresMs)}
            </span>{" "}
            <Button size="small" type="link" onClick={() => void withdraw(link.id)}>
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
    </Group>
  );
}
