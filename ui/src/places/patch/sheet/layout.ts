import type { Port } from '../../../api/client';

// Where everything stands on the strand sheet, in pixels. Rails have fixed widths; the threads between them share what
// is left. Where that is too little, as on a telephone, rails become slim, with their marks alone, those farthest from
// the cursor's first.
export const RAILS = ['socket', 'channel', 'send', 'track', 'return'] as const;
export type Rail = (typeof RAILS)[number];

export const HEADS: Record<Rail, string> = {
  socket: 'Socket',
  channel: 'Channel',
  send: 'Send · tap',
  track: 'Track',
  return: 'Return',
};
/** What stands above a slim rail. */
export const SLIM_HEADS: Record<Rail, string> = {
  socket: 'Sock',
  channel: 'Chan',
  send: 'Send',
  track: 'Track',
  return: 'Ret',
};
const WIDTHS: Record<Rail, number> = { socket: 130, channel: 180, send: 138, track: 168, return: 104 };
export const ROW = 26;
export const PORT = 23;
const SLIM = 42;
/** What the rail at the cursor keeps at least. */
const LEAST = 96;
const LEAST_GAP = 14;
const MOST_GAP = 110;
/** Room at the left for the brackets of a desk that patches in blocks. */
export const BRACKETS = 24;

export type Columns = Record<Rail, { left: number; width: number; slim: boolean }>;

const GAPS = RAILS.length - 1;
const sumOf = (widths: Record<Rail, number>) => RAILS.reduce((sum, rail) => sum + widths[rail], 0);

/** How wide each rail is where `room` is for all. */
function widthsFor(room: number, at: Rail): Record<Rail, number> {
  const widths = { ...WIDTHS };
  const away = (rail: Rail) => Math.abs(RAILS.indexOf(rail) - RAILS.indexOf(at));
  for (const rail of [...RAILS].sort((one, other) => away(other) - away(one))) {
    const over = sumOf(widths) + LEAST_GAP * GAPS - room;
    if (over <= 0) break;
    widths[rail] = rail === at ? Math.max(LEAST, widths[rail] - over) : SLIM;
  }
  return widths;
}

/** @param at the cursor's rail */
export function columnsFor(width: number, brackets: boolean, at: Rail): Columns {
  const start = brackets ? BRACKETS : 0;
  const widths = widthsFor(width - start, at);
  const gap = Math.min(MOST_GAP, Math.max(LEAST_GAP, (width - start - sumOf(widths)) / GAPS));
  let left = start;
  return Object.fromEntries(
    RAILS.map((rail) => {
      const place = { left, width: widths[rail], slim: widths[rail] === SLIM };
      left += widths[rail] + gap;
      return [rail, place];
    }),
  ) as Columns;
}

/** Ports by row, each row's from the left to the right. */
export function inRows<P extends Place>(ports: P[], rows: number): P[][] {
  const all: P[][] = Array.from({ length: rows }, () => []);
  ports.forEach((port) => all[port.row]?.push(port));
  return all.map((row) => row.sort((one, other) => RAILS.indexOf(one.rail) - RAILS.indexOf(other.rail)));
}

/** How far a thread runs between two rails. */
export const gapOf = ({ socket, channel }: Columns) => channel.left - socket.left - socket.width;

/** What the whole sheet is wide at least. */
export const widthOf = (columns: Columns) => columns.return.left + columns.return.width;

export const rowTop = (row: number) => row * ROW;
export const rowMiddle = (row: number) => rowTop(row) + PORT / 2;

type Place = Pick<Port, 'rail' | 'row'>;

/** The thread between two ports: straight where the rows are the same, otherwise a soft curve. */
export function threadPath(columns: Columns, from: Place, to: Place): string {
  const a = columns[from.rail];
  const x1 = a.left + a.width;
  const x2 = columns[to.rail].left;
  const y1 = rowMiddle(from.row);
  const y2 = rowMiddle(to.row);
  if (y1 === y2) return `M${x1} ${y1}H${x2}`;
  const bend = (x2 - x1) / 2;
  return `M${x1} ${y1}C${x1 + bend} ${y1} ${x2 - bend} ${y2} ${x2} ${y2}`;
}
