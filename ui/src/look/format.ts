const MINUS = '−';

/** −19.4, or −∞ for silence; a real minus sign. */
export function decibels(db: number): string {
  return db <= -120 ? `${MINUS}∞` : signed(db, 1).replace('+', '');
}

/** +3.0 or −3.0. */
export function signed(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  const zero = Number(text) === 0;
  return `${zero || value > 0 ? '+' : MINUS}${text}`;
}

/** mm:ss.s, with hours in front where there are any. */
export function clock(seconds: number): string {
  const tenths = Math.max(0, Math.floor(seconds * 10 + 1e-6));
  const s = (tenths % 600) / 10;
  const m = Math.floor(tenths / 600) % 60;
  const h = Math.floor(tenths / 36000);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${h > 0 ? `${h}:` : ''}${two(m)}:${s.toFixed(1).padStart(4, '0')}`;
}

/** 9 h 46 min, 46 min, or 38 s. */
export function span(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  if (minutes >= 60) return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
  return minutes > 0 ? `${minutes} min` : `${Math.floor(seconds)} s`;
}

/** 14 Jun, 20:31, from a time as the application tells it. */
export const moment = (at: string) =>
  new Date(at).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });

/** Text for a count: 1 channel, 2 channels. */
export const count = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;

/** −7.0 dB, or silent. */
export const level = (db: number | null) => (db === null ? 'silent' : `${decibels(db)} dB`);

/** 1.4 GB, 380 MB: decimal, as disks are sold. */
export function size(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`;
  return bytes >= 1e6 ? `${Math.round(bytes / 1e6)} MB` : `${Math.max(1, Math.round(bytes / 1e3))} kB`;
}
