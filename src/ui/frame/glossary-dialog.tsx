"use client";

import { Modal } from "antd";
import { GLOSSARY } from "@/core/messages/glossary";

/** The terms of the sheet, each in a sentence. */
export function GlossaryDialog({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Modal open={open} onCancel={close} footer={null} title="Glossary" width={640}>
      <dl className="glossary" tabIndex={0}>
        {GLOSSARY.map(([term, meaning]) => (
          <div key={term} style={{ display: "contents" }}>
            <dt>{term}</dt>
            <dd>{meaning}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
