/** A log of `rows` in the project's own format, a second apart. */
export function longLog(rows: number): string {
  const start = Date.UTC(2026, 7, 14, 12);
  const lines = ["time,battery_current_a,battery_voltage_v,soc_pct"];
  for (let i = 0; i < rows; i++) {
    const amps = i % 600 < 300 ? 58.4 : 7.9;
    const volts = 13.2 - amps * 0.004;
    lines.push(
      `${new Date(start + i * 1000).toISOString()},${(-amps).toFixed(1)},${volts.toFixed(2)},${(100 - i / rows).toFixed(1)}`,
    );
  }
  return `${lines.join("\n")}\n`;
}
