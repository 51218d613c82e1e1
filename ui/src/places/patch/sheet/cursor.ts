import type { Port } from '../../../api/client';
import { type Rail, RAILS } from './layout';

/** The cell that the keyboard is at, and the other end of a chosen range on the same rail. */
export interface Cursor {
  rail: Rail;
  row: number;
  anchor: number;
}

export const start: Cursor = { rail: 'channel', row: 0, anchor: 0 };

/** Rows of each rail that have a port, in order. */
export type Rows = Record<Rail, number[]>;

export const rowsOf = (ports: Port[]): Rows =>
  Object.fromEntries(
    RAILS.map((rail) => [
      rail,
      ports
        .filter((port) => port.rail === rail)
        .map((port) => port.row)
        .sort((a, b) => a - b),
    ]),
  ) as Rows;

/** The row of a rail that is nearest to a wanted one. */
function nearest(rows: number[], wanted: number): number {
  return rows.reduce(
    (best, row) => (Math.abs(row - wanted) < Math.abs(best - wanted) ? row : best),
    rows[0] ?? 0,
  );
}

/** The next row of a rail in a direction, so many ports on; the last one where it ends. */
function along(rows: number[], row: number, by: number): number {
  const at = Math.max(0, rows.indexOf(nearest(rows, row)));
  return rows[Math.min(rows.length - 1, Math.max(0, at + by))] ?? row;
}

const STEPS: Record<string, number> = {
  ArrowUp: -1,
  ArrowDown: 1,
  PageUp: -8,
  PageDown: 8,
  Home: -1e6,
  End: 1e6,
};

/** Where a key leads; null for keys that lead nowhere. Shift keeps the anchor, so that a range grows. */
export function moved(cursor: Cursor, key: string, shift: boolean, rows: Rows): Cursor | null {
  const by = STEPS[key];
  if (by !== undefined) {
    const row = along(rows[cursor.rail], cursor.row, by);
    return { rail: cursor.rail, row, anchor: shift ? cursor.anchor : row };
  }
  const aside = key === 'ArrowRight' ? 1 : key === 'ArrowLeft' ? -1 : 0;
  if (aside === 0) return null;
  const rail = RAILS[RAILS.indexOf(cursor.rail) + aside] ?? cursor.rail;
  const row = nearest(rows[rail], cursor.row);
  return { rail, row, anchor: row };
}

export const isRange = (cursor: Cursor) => cursor.row !== cursor.anchor;

export const inRange = (cursor: Cursor, port: Pick<Port, 'rail' | 'row'>) =>
  port.rail === cursor.rail &&
  port.row >= Math.min(cursor.row, cursor.anchor) &&
  port.row <= Math.max(cursor.row, cursor.anchor);
