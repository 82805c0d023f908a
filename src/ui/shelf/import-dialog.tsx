"use client";

import { Modal } from "antd";
import { type ImportReport } from "@/contract/parts";

/** What an import put on the shelf, and every row it passed over with the reason. */
export function ImportDialog({ report, close }: { report: ImportReport; close(): void }) {
  const { added, changed, same, skipped, skippedCount, unknownColumns } = report;
  return (
    <Modal open title="Imported onto the shelf" footer={null} onCancel={close} width={560}>
      <p className="sentence">
        {added} added, {changed} changed, {same} as they were; {skippedCount} {skippedCount === 1 ? "row" : "rows"}{" "}
        skipped.
      </p>
      {unknownColumns.length > 0 && (
        <p className="note">Columns not known here: {unknownColumns.slice(0, 20).join(", ")}.</p>
      )}
      {skipped.length > 0 && (
        <table className="values">
          <thead>
            <tr>
              <th>Line</th>
              <th>Why</th>
            </tr>
          </thead>
          <tbody>
            {skipped.map(({ line, why }) => (
              <tr key={line}>
                <td className="mono">{line}</td>
                <td>{why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {skippedCount > skipped.length && <p className="note">… and {skippedCount - skipped.length} more.</p>}
    </Modal>
  );
}
