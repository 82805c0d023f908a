"use client";

import { useReading } from "../state/sheet-context";
import { STAGES, type StageKey } from "../stages/stages";
import { knownOfStage } from "../stages/known";

/** The stages in the order of work; under each, how much of it is measured, from the plate, assumed. */
export function StageRail({ id, stage, go }: { id: string; stage: StageKey; go: (stage: StageKey) => void }) {
  const { assessment } = useReading();
  return (
    <nav className="rail" aria-label="Stages">
      {STAGES.map(({ key, title, press }) => {
        const { measured, plate, assumed } = knownOfStage(assessment.values, key);
        return (
          <a
            key={key}
            href={`/jobs/${id}/${key}`}
            aria-current={stage === key ? "page" : undefined}
            title={`${measured} measured, ${plate} from the plate or stated, ${assumed} assumed`}
            onClick={(event) => {
              if (event.metaKey || event.ctrlKey || event.shiftKey) return;
              event.preventDefault();
              go(key);
            }}
          >
            <span className="digit" aria-hidden="true">
              {press}
            </span>
            {title}
            <span className="known-bar" aria-hidden="true">
              <i style={{ flexGrow: measured, background: "var(--ink)" }} />
              <i style={{ flexGrow: plate, background: "var(--faded)", opacity: 0.6 }} />
              <i style={{ flexGrow: assumed, background: "var(--hair)" }} />
            </span>
          </a>
        );
      })}
    </nav>
  );
}
