const COLUMNS = 40;
const SWEEPS_S = [200, 500, 800, 1100];

/** One recording at 100 Hz with four sweeps in it. */
export function bigLog(megabytes: number): string {
  const names = Array.from(
    { length: COLUMNS },
    (_, i) => ['Time [s]', 'Engine speed [rpm]', 'Power [kW]', 'Throttle [%]'][i] ?? `Channel ${i}`,
  );
  const lines = [names.join(',')];
  let size = 0;
  for (let row = 0; size < megabytes * 1e6; row += 1) {
    const timeS = row / 100;
    const from = SWEEPS_S.find((startS) => timeS >= startS && timeS < startS + 10);
    const share = from === undefined ? 0 : (timeS - from) / 10;
    const line = names
      .map(
        (_, i) =>
          [timeS.toFixed(2), (2000 + 4700 * share).toFixed(0), (20 + 120 * share).toFixed(3), from === undefined ? '8.0' : '100.0'][i] ??
          (Math.sin(row * i) * 100).toFixed(3),
      )
      .join(',');
    lines.push(line);
    size += line.length + 1;
  }
  return `${lines.join('\n')}\n`;
}
