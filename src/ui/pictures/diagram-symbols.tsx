import type { DiagramSymbol } from "@/core/applications/diagram/single-line-diagram";

/*
 * Symbols of the one-line plan, each about the origin on a line from left to right, 34 px wide: own drawings after the
 * kind of IEC 60617.
 */
const HALF = 17;

export function SymbolOf({ symbol, ink, paper }: { symbol: DiagramSymbol; ink: string; paper: string }) {
  const line = { fill: "none", stroke: ink, strokeWidth: 1.4 } as const;
  const box = <rect x={-14} y={-14} width={28} height={28} fill={paper} stroke={ink} strokeWidth={1.4} />;
  const gap = <rect x={-HALF} y={-3} width={2 * HALF} height={6} fill={paper} />;
  switch (symbol) {
    case "cable":
      return <path d="M-5 6L0 -6M1 6L6 -6" {...line} />;
    case "fuse":
      return (
        <>
          <rect x={-13} y={-6} width={26} height={12} fill={paper} stroke={ink} strokeWidth={1.4} />
          <path d="M-13 0H13" {...line} />
        </>
      );
    case "isolator":
      return (
        <>
          {gap}
          <path d="M-17 0H-9L9 -10M9 0H17M9 -4V4" {...line} />
        </>
      );
    case "breaker-dc":
    case "breaker":
      return (
        <>
          {gap}
          <path d="M-17 0H-9L9 -10M10 0H17M6 -4L13 4M13 -4L6 4" {...line} />
        </>
      );
    case "rcd":
      return (
        <>
          {gap}
          <path d="M-17 0H-9L7 -9M8 0H17" {...line} />
          <ellipse cx={12} cy={0} rx={3.5} ry={8} {...line} />
        </>
      );
    case "changeover":
      return (
        <>
          <rect x={-HALF} y={-3} width={2 * HALF} height={12} fill={paper} />
          <path d="M-17 0H-9L8 -6M9 0H17M9 8H17" {...line} />
          <circle cx={-8} cy={0} r={1.8} fill={ink} />
        </>
      );
    case "shunt":
      return (
        <>
          <rect x={-12} y={-5} width={24} height={10} fill={paper} stroke={ink} strokeWidth={1.4} />
          <path d="M-8 -5V-12M8 -5V-12" {...line} />
        </>
      );
    case "busbar":
      return <rect x={-14} y={-3.5} width={28} height={7} fill={ink} />;
    case "joints":
      return (
        <>
          {[-9, 0, 9].map((x) => (
            <circle key={x} cx={x} cy={0} r={3} fill={paper} stroke={ink} strokeWidth={1.4} />
          ))}
        </>
      );
    case "inlet":
      return (
        <>
          <rect x={-6} y={-9} width={20} height={18} fill={paper} />
          <path d="M-17 0H-6M-6 -8V8M-6 -4H2M-6 4H2M6 -8a8 8 0 0 1 0 16" {...line} />
        </>
      );
    case "connector":
      return (
        <>
          {gap}
          <path d="M-17 0H-6M-6 -6a6 6 0 0 1 0 12M0 0H17M0 -4V4" {...line} />
        </>
      );
    case "converter":
      return (
        <>
          {box}
          <path d="M-14 14L14 -14M-10 -9H-3M-10 -6H-3M3 7H10M3 10H10" {...line} />
        </>
      );
    case "starter":
    case "bank":
      return (
        <>
          <rect x={-12} y={-12} width={24} height={24} fill={paper} />
          <path d="M-10 -13V13M-4 -6V6M4 -13V13M10 -6V6" {...line} />
        </>
      );
    case "inverter":
      return (
        <>
          {box}
          <path d="M-14 14L14 -14M-10 -9H-3M-10 -6H-3M2 8c2 -5 4 -5 5 -1s3 4 5 -1" {...line} />
        </>
      );
    case "charger":
      return (
        <>
          {box}
          <path d="M14 14L-14 -14M-10 8c2 -5 4 -5 5 -1s3 4 5 -1M3 -9H10M3 -6H10" {...line} />
        </>
      );
    case "circuit":
    case "dc-unit":
    case "unit":
      return (
        <>
          <circle cx={0} cy={0} r={15} fill={paper} stroke={ink} strokeWidth={1.4} />
          <path d="M0 -10V10M-8.7 -5L8.7 5M-8.7 5L8.7 -5M-3 -8L0 -5L3 -8M-3 8L0 5L3 8" {...line} />
        </>
      );
    case "solar":
      return (
        <>
          {box}
          <path d="M-14 0H-4L4 -6V6L-4 0M4 0H14M-11 -11L-5 -6M-6 -12L0 -7" {...line} />
        </>
      );
    case "engine":
      return (
        <>
          <circle cx={0} cy={0} r={15} fill={paper} stroke={ink} strokeWidth={1.4} />
          <path d="M5 -5a7 7 0 1 0 1 8V1H1" {...line} />
        </>
      );
    case "loads":
      return (
        <>
          <circle cx={0} cy={0} r={13} fill={paper} stroke={ink} strokeWidth={1.4} />
          <path d="M-9 -9L9 9M-9 9L9 -9" {...line} />
        </>
      );
    case "shore":
      return (
        <>
          <rect x={-4} y={-13} width={18} height={26} fill={paper} />
          <path d="M-4 0H2M2 -12a12 12 0 0 1 0 24M2 -12V12" {...line} />
        </>
      );
    case "link":
      return <circle cx={0} cy={0} r={5} fill={paper} stroke={ink} strokeWidth={1.4} />;
  }
}
