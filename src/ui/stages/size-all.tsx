"use client";

import { App, Button, Modal } from "antd";
import { useState } from "react";
import type { SizedJob } from "@/core/applications/sizing/size-system";
import { askSizes } from "../state/insight";
import { useSheet, useSheetStore } from "../state/sheet-context";
import { say } from "@/core/messages/say";

/** Every cable, fuse, breaker and switch at the smallest size that all rules allow; shown with its rule, then applied. */
export function SizeAll() {
  const store = useSheetStore();
  const change = useSheet((state) => state.change);
  const { message } = App.useApp();
  const [sized, setSized] = useState<SizedJob | null>(null);
  const [asking, setAsking] = useState(false);
  const ask = async () => {
    setAsking(true);
    try {
      setSized(await askSizes(store.getState().job));
    } catch {
      void message.error(say("interface.sizesCouldNotComputed"));
    } finally {
      setAsking(false);
    }
  };
  const apply = () => {
    const found = sized?.job;
    if (!found) return;
    change((draft) => {
      draft.wiring = found.wiring;
      draft.inverter.leads = found.inverter.leads;
      draft.sources.controllers = found.sources.controllers;
    });
    setSized(null);
  };
  return (
    <>
      <Button size="small" loading={asking} onClick={() => void ask()}>
        Size all wiring automatically
      </Button>
      <Modal
        open={sized !== null}
        title="Sizes of the whole wiring"
        okText="Apply all to the job"
        onOk={apply}
        onCancel={() => setSized(null)}
        width={900}
      >
        {sized && <SizesTable sized={sized} />}
      </Modal>
    </>
  );
}

function SizesTable({ sized }: { sized: SizedJob }) {
  return (
    <>
      <p className="sentence">
        {sized.left.length === 0
          ? say("interface.eachPartHasSmallest")
          : say("interface.noSizeSaleFixes", { parts: sized.left.map(({ name }) => name).join("; ") })}
      </p>
      <div className="sizes-table">
        <table className="values">
          <thead>
            <tr>
              <th>Run</th>
              <th>Part</th>
              <th>Size</th>
              <th>Rule that sizes it</th>
              <th>One size smaller breaks</th>
            </tr>
          </thead>
          <tbody>
            {sized.parts.map(({ path, run, name, size, rule, smaller }) => (
              <tr key={`${path} ${name}`}>
                <td className="note">{run}</td>
                <td>{name}</td>
                <td className="mono">{size}</td>
                <td>{rule}</td>
                <td className="note">
                  {smaller
                    ? `${smaller.size}: ${smaller.breaks.join(", ") || "nothing"}`
                    : "no smaller size is on sale"}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
