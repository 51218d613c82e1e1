import type { Port } from '../../api/client';
import { RAILS } from './layout';

/** The cell that the keyboard is at, and the other end of a chosen range on the same rail. */
export interface Cursor {
  rail: Port['rail'];
  row: number;
  anchor: number;
}

export const start: Cursor = { rail: 'channel', row: 0, anchor: 0 };

/** Where an arrow key leads; null for other keys. Shift keeps the anchor, so that a range grows. */
export function moved(
  cursor: Cursor,
  key: string,
  shift: boolean,
  sizes: Record<string, number>,
): Cursor | null {
  const at = RAILS.indexOf(cursor.rail);
  const rail = RAILS[at + (key === 'ArrowRight' ? 1 : key === 'ArrowLeft' ? -1 : 0)] ?? cursor.rail;
  const last = Math.max(0, (sizes[rail] ?? 1) - 1);
  const rows: Record<string, number> = {
    ArrowUp: cursor.row - 1,
    ArrowDown: cursor.row + 1,
    ArrowLeft: cursor.row,
    ArrowRight: cursor.row,
    PageUp: cursor.row - 8,
    PageDown: cursor.row + 8,
    Home: 0,
    End: last,
  };
  const wanted = rows[key];
  if (wanted === undefined) return null;
  const row = Math.min(last, Math.max(0, wanted));
  return { rail, row, anchor: shift && rail === cursor.rail ? cursor.anchor : row };
}

export const inRange = (cursor: Cursor, port: Port) =>
  port.rail === cursor.rail &&
  port.row >= Math.min(cursor.row, cursor.anchor) &&
  port.row <= Math.max(cursor.row, cursor.anchor);
