import { Fragment } from "react";

/** A number, and the unit or the short word that it is of; with what it says before it, where that is a verdict's pair. */
const NUMBER_WITH_UNIT = /((?:needs |has |drops |draws |off at )?(?:over )?\d[\d.,]* [%°A-Za-zΩµ][^\s]{0,4})/;

/** A text in which no number stands apart from its unit, however narrow its place is. */
export function WithUnits({ text }: { text: string }) {
  return text.split(NUMBER_WITH_UNIT).map((part, i) =>
    // Every second part is one that the pattern found.
    i % 2 === 1 ? (
      <span key={i} className="with-unit">
        {part}
      </span>
    ) : (
      <Fragment key={i}>{part}</Fragment>
    ),
  );
}
