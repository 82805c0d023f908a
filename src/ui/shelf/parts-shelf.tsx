"use client";

import { App, Button, Input, Segmented } from "antd";
import { CopyOutlined, DeleteOutlined, ExportOutlined, ImportOutlined, PlusOutlined } from "@ant-design/icons";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState, useTransition } from "react";
import { AMERICAN, METRIC, type UnitPreferences } from "@/core/units/dimension";
import { formatQuantity } from "@/core/units/format";
import { emptyEntry, SHELF_KIND_KEYS, shelfKind, type ShelfKindKey } from "@/core/applications/parts/shelf";
import { useKey } from "../frame/use-keys";
import { addPart, importShelf, removePart, restorePart } from "./calls";
import { type ImportReport, type ShelfPart } from "@/contract/parts";
import { EntryDialog } from "./entry-dialog";
import { entryLine } from "./entry-words";
import { ImportDialog } from "./import-dialog";
import { UsesDialog } from "./uses-dialog";
import { AccountMenu } from "../people/account";
import { say } from "@/core/messages/say";

interface Props {
  parts: ShelfPart[];
  total: number;
  kind: ShelfKindKey;
  query: string;
}

const UNDO_SECONDS = 12;

/** The workshop's own library of parts: kinds, find, new, edit, copy, take off, import and export. */
export function PartsShelf({ parts, total, kind, query }: Props) {
  const router = useRouter();
  const { message, notification } = App.useApp();
  const [notation, setNotation] = useState<UnitPreferences>(METRIC);
  const [text, setText] = useState(query);
  const [edited, setEdited] = useState<ShelfPart | null>(null);
  const [report, setReport] = useState<ImportReport | null>(null);
  const [changed, setChanged] = useState<ShelfPart | null>(null);
  const [working, startWork] = useTransition();
  const [importing, setImporting] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const go = (to: ShelfKindKey, words: string) =>
    startWork(() => router.replace(`/parts?kind=${to}${words.trim() ? `&q=${encodeURIComponent(words.trim())}` : ""}`));
  useEffect(() => {
    if (text.trim() === query) return;
    const wait = setTimeout(() => go(kind, text), 250);
    return () => clearTimeout(wait);
  });
  useKey("u", () => setNotation(notation.temperature === "C" ? AMERICAN : METRIC));
  useKey("n", () => setEdited({ id: "", revision: 0, entry: emptyEntry(kind) }));
  useKey("/", () => router.push("/?find"));

  const attempt = async (what: () => Promise<void>) => {
    try {
      await what();
    } catch (error) {
      void message.error((error as Error).message, 8);
    }
  };
  const remove = (part: ShelfPart) =>
    attempt(async () => {
      await removePart(part.id);
      router.refresh();
      const key = `off-${part.id}`;
      notification.open({
        key,
        title: `Removed “${part.entry.name}” from the shelf`,
        description: say("interface.jobsUseKeepTheir"),
        placement: "bottomRight",
        duration: UNDO_SECONDS,
        actions: (
          <Button
            type="primary"
            size="small"
            onClick={() =>
              void attempt(async () => {
                await restorePart(part.id);
                notification.destroy(key);
                router.refresh();
              })
            }
          >
            Undo
          </Button>
        ),
      });
    });
  const copy = ({ entry }: ShelfPart) =>
    attempt(async () => {
      await addPart({ ...entry, name: `${entry.name.slice(0, 74)} copy` });
      router.refresh();
    });
  const load = (chosen: File | undefined) =>
    attempt(async () => {
      if (!chosen) return;
      setImporting(true);
      try {
        setReport(await importShelf(await chosen.text()));
        router.refresh();
      } finally {
        setImporting(false);
      }
    });
  const { plural, title } = shelfKind(kind);

  return (
    <main className="page">
      <header className="page-head">
        <h1>
          <Link href="/" className="brand">
            Chillbank
          </Link>{" "}
          <span className="note">parts shelf</span>
        </h1>
        <Link href="/">Jobs</Link>
        <AccountMenu />
        <Input
          allowClear
          aria-label="Find a part"
          placeholder="Find by name"
          value={text}
          maxLength={200}
          onChange={(event) => setText(event.target.value)}
          style={{ width: 220 }}
        />
        <Button icon={<ImportOutlined />} loading={importing} onClick={() => file.current?.click()}>
          Import CSV
        </Button>
        <Button icon={<ExportOutlined />} href="/api/parts/file">
          Export CSV
        </Button>
        <input
          ref={file}
          type="file"
          accept=".csv,text/csv,text/plain"
          hidden
          aria-label="CSV of parts to import"
          onChange={(event) => {
            void load(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
        <Button
          type="primary"
          icon={<PlusOutlined />}
          onClick={() => setEdited({ id: "", revision: 0, entry: emptyEntry(kind) })}
        >
          New {title.toLowerCase()}
        </Button>
      </header>
      <Segmented
        className="shelf-kinds"
        aria-label="Kind of part"
        value={kind}
        onChange={(chosen) => go(chosen, text)}
        options={SHELF_KIND_KEYS.map((key) => ({ value: key, label: shelfKind(key).plural }))}
      />
      {parts.length === 0 ? (
        <div className="empty">
          <p>
            {query
              ? say("interface.shelf.noneOfName", { plural: plural.toLowerCase(), query })
              : say("interface.shelf.empty", { plural: plural.toLowerCase() })}
          </p>
          {query && <Button onClick={() => setText("")}>Show all</Button>}
        </div>
      ) : (
        <table className="values shelf" aria-busy={working}>
          <thead>
            <tr>
              <th style={{ width: "34%" }}>Part</th>
              <th>From its plate</th>
              <th className="right">Cost</th>
              <th className="right">Mass</th>
              <th>
                <span className="spoken">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {parts.map((part) => (
              <tr key={part.id}>
                <td>
                  <button type="button" className="plain part-link" onClick={() => setEdited(part)}>
                    <strong>{part.entry.name}</strong>
                  </button>
                  {part.entry.note && <div className="note">{part.entry.note}</div>}
                </td>
                <td className="note">{entryLine(part.entry, notation)}</td>
                <td className="mono">
                  {part.entry.cost === undefined ? "–" : formatQuantity(part.entry.cost, "money", notation)}
                </td>
                <td className="mono">
                  {part.entry.mass === undefined ? "–" : formatQuantity(part.entry.mass, "mass", notation)}
                </td>
                <td>
                  <span className="job-tools">
                    <Button
                      size="small"
                      type="text"
                      icon={<CopyOutlined />}
                      aria-label={`Copy ${part.entry.name}`}
                      onClick={() => void copy(part)}
                    />
                    <Button
                      size="small"
                      type="text"
                      icon={<DeleteOutlined />}
                      aria-label={`Take ${part.entry.name} from the shelf`}
                      onClick={() => void remove(part)}
                    />
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {total > parts.length && <p className="note">{say("interface.partsShown", { shown: parts.length, total })}</p>}
      <p className="note">{say("interface.typicalEntriesShipChillbank")}</p>
      {edited && (
        <EntryDialog
          part={edited}
          notation={notation}
          close={() => setEdited(null)}
          saved={(part, isNew) => {
            setEdited(null);
            router.refresh();
            if (!isNew) setChanged(part);
          }}
        />
      )}
      {changed && <UsesDialog part={changed} close={() => setChanged(null)} />}
      {report && <ImportDialog report={report} close={() => setReport(null)} />}
    </main>
  );
}
