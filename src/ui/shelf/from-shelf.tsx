"use client";

import { App, Button, Input, Modal, type InputRef } from "antd";
import Link from "next/link";
import { useEffect, useRef, useState } from "react";
import { pickInto, type ShelfPath } from "@/core/applications/parts/pick";
import { shelfKind, type ShelfKindKey } from "@/core/applications/parts/shelf";
import { useReading, useSheetStore } from "../state/sheet-context";
import { findParts } from "./calls";
import { type ShelfPart } from "@/contract/parts";
import { entryLine } from "./entry-words";
import { say } from "@/core/messages/say";

/** Picks a part of a kind off the workshop's shelf into a place of the system; undo takes it out again. */
export function FromShelf({ kind, path }: { kind: ShelfKindKey; path: ShelfPath }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button size="small" type="text" className="from-shelf" onClick={() => setOpen(true)}>
        From the shelf
      </Button>
      {open && <Picker kind={kind} path={path} close={() => setOpen(false)} />}
    </>
  );
}

function Picker({ kind, path, close }: { kind: ShelfKindKey; path: ShelfPath; close(): void }) {
  const { job } = useReading();
  const store = useSheetStore();
  const { message } = App.useApp();
  const [query, setQuery] = useState("");
  const [found, setFound] = useState<{ parts: ShelfPart[]; total: number; query: string } | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    let late = false;
    const wait = setTimeout(
      () =>
        void findParts(kind, query).then(
          (answer) => {
            if (late) return;
            setFound({ ...answer, query });
            setFault("");
          },
          (error: Error) => !late && setFault(error.message),
        ),
      query ? 200 : 0,
    );
    return () => {
      late = true;
      clearTimeout(wait);
    };
  }, [kind, query]);
  const take = (part: ShelfPart) => {
    store
      .getState()
      .change((draft) => void Object.assign(draft, pickInto(store.getState().job, path, part.entry, part)));
    void message.success(`${part.entry.name}: applied, values from its plate`);
    close();
  };
  const first = useRef<InputRef>(null);
  return (
    <Modal
      open
      title={`${shelfKind(kind).plural} on the shelf`}
      footer={null}
      onCancel={close}
      afterOpenChange={(open) => open && first.current?.focus()}
      width={620}
    >
      <Input
        ref={first}
        allowClear
        aria-label="Find on the shelf"
        placeholder="Find by name"
        value={query}
        maxLength={200}
        onChange={(event) => setQuery(event.target.value)}
      />
      {fault && <p className="problem">{fault}</p>}
      <ul className="shelf-picks" aria-busy={found?.query !== query}>
        {found?.parts.map((part) => (
          <li key={part.id}>
            <button type="button" className="plain" onClick={() => take(part)}>
              <strong>{part.entry.name}</strong>
              <span className="note">{entryLine(part.entry, job.notation)}</span>
            </button>
          </li>
        ))}
      </ul>
      {found?.parts.length === 0 && <p className="note">{say("interface.shelf.nothing")}</p>}
      <p className="note">
        {found && found.total > found.parts.length ? `${say("interface.shelf.more", { total: found.total })} ` : ""}
        <Link href={`/parts?kind=${kind}`}>The whole shelf</Link>
      </p>
    </Modal>
  );
}
