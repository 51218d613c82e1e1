import type { Port } from '../../api/client';

// Where everything stands on the strand sheet, in pixels. Rails have fixed widths; the threads between them share what
// is left.
export const RAILS = ['socket', 'channel', 'send', 'track', 'return'] as const;
export type Rail = (typeof RAILS)[number];

export const HEADS: Record<Rail, string> = {
  socket: 'Socket',
  channel: 'Channel',
  send: 'Send · tap',
  track: 'Track',
  return: 'Return',
};
const WIDTHS: Record<Rail, number> = { socket: 112, channel: 172, send: 150, track: 168, return: 104 };
export const ROW = 26;
export const PORT = 23;
export const TOP = 36;
const LEAST_GAP = 40;
const MOST_GAP = 110;

export type Columns = Record<Rail, { left: number; width: number }>;

export function columnsFor(width: number): Columns {
  const ports = RAILS.reduce((sum, rail) => sum + WIDTHS[rail], 0);
  const gap = Math.min(MOST_GAP, Math.max(LEAST_GAP, (width - ports) / (RAILS.length - 1)));
  let left = 0;
  return Object.fromEntries(
    RAILS.map((rail) => {
      const place = { left, width: WIDTHS[rail] };
      left += WIDTHS[rail] + gap;
      return [rail, place];
    }),
  ) as Columns;
}

export const rowTop = (row: number) => TOP + row * ROW;
export const rowMiddle = (row: number) => rowTop(row) + PORT / 2;

/** The thread between two ports: straight where the rows are the same, otherwise a soft curve. */
export function threadPath(columns: Columns, from: Port, to: Port): string {
  const a = columns[from.rail];
  const x1 = a.left + a.width;
  const x2 = columns[to.rail].left;
  const y1 = rowMiddle(from.row);
  const y2 = rowMiddle(to.row);
  if (y1 === y2) return `M${x1} ${y1}H${x2}`;
  const bend = (x2 - x1) / 2;
  return `M${x1} ${y1}C${x1 + bend} ${y1} ${x2 - bend} ${y2} ${x2} ${y2}`;
}
