/**
 * A moment as ISO 8601. Without an offset where nobody says the zone.
 * @param ms in UTC where `zoneMin` is given, else as the clock on the wall shows it
 * @param timeZone IANA name of the zone in which the clocks on the wall ran
 */
export function wallTime(ms: number, zoneMin: number | null, timeZone: string | null): string {
  if (zoneMin !== null) return zoneMin === 0 ? iso(ms, 'Z') : iso(ms + zoneMin * 60_000, offsetText(zoneMin));
  if (timeZone === null) return iso(ms, '');
  const offsetMin = offsetOf(ms, timeZone);
  return iso(ms, offsetText(offsetMin));
}

/** A moment of the exchange format as the clock on the wall showed it, ms: by its own offset, else by the zone where that is known. */
export function wallMs(moment: string, timeZone: string | null): number {
  const utcMs = Date.parse(moment);
  const [, sign, hours, minutes] = /([+-])(\d\d):?(\d\d)$/.exec(moment) ?? [];
  if (hours !== undefined) return utcMs + (sign === '-' ? -1 : 1) * (Number(hours) * 60 + Number(minutes)) * 60_000;
  return timeZone === null ? utcMs : utcMs + zoneOffsetMs(utcMs, timeZone);
}

const iso = (ms: number, suffix: string) => new Date(Math.round(ms)).toISOString().replace('Z', suffix);

function offsetText(minutes: number): string {
  const size = Math.abs(minutes);
  return `${minutes < 0 ? '-' : '+'}${String(Math.floor(size / 60)).padStart(2, '0')}:${String(size % 60).padStart(2, '0')}`;
}

/** Minutes east of UTC of a zone when its clocks on the wall show a time. */
function offsetOf(wallMs: number, timeZone: string): number {
  const guessMs = zoneOffsetMs(wallMs, timeZone);
  return Math.round(zoneOffsetMs(wallMs - guessMs, timeZone) / 60_000);
}

/** Clocks of zones that were asked for: setting one up takes longer than reading it a hundred times. */
const clocks = new Map<string, Intl.DateTimeFormat>();

function clockOf(timeZone: string): Intl.DateTimeFormat {
  const clock =
    clocks.get(timeZone) ??
    new Intl.DateTimeFormat('en-GB', {
      timeZone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
      hourCycle: 'h23',
    });
  clocks.set(timeZone, clock);
  return clock;
}

/** How far a zone's clocks stand east of UTC at a moment, ms. */
function zoneOffsetMs(utcMs: number, timeZone: string): number {
  const parts = clockOf(timeZone).formatToParts(utcMs);
  const part = (type: string) => Number(parts.find((entry) => entry.type === type)!.value);
  const shownMs = Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'), part('second'));
  return shownMs - Math.floor(utcMs / 1000) * 1000;
}
