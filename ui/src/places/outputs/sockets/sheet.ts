import type { Outputs, Settings } from '../../../api/client';

/** A line of the sheet: an output of the desk, or a lane of a personal-mix system. */
export interface Line {
  kind: 'output' | 'personal';
  number: number;
  source: string | null;
  label: string;
  tap: string;
  taken: string | null;
  taps: string[];
  delay: number | null;
  delayMs: number;
  polarity: boolean | null;
  expected: string | null;
  expectedLabel: string;
  sockets: { point: string; label: string }[];
}

const COLUMNS = ['source', 'tap', 'delay', 'polarity', 'expected'] as const;
export type Column = (typeof COLUMNS)[number];

/** What can be set of a kind of line. */
export const columnsOf = (kind: Line['kind']): readonly Column[] =>
  kind === 'output' ? COLUMNS : COLUMNS.slice(0, 2);

export function linesOf(outputs: Outputs, kind: Line['kind']): Line[] {
  const desk = outputs.outputs.map((one) => ({
    ...one,
    kind: 'output' as const,
    delayMs: one.delay_ms,
    expectedLabel: one.expected_label,
  }));
  const personal = outputs.personal.map((one) => ({
    ...one,
    kind: 'personal' as const,
    delay: null,
    delayMs: 0,
    polarity: null,
    expected: null,
    expectedLabel: '',
    sockets: [],
  }));
  return kind === 'output' ? desk : personal;
}

export interface Cursor {
  row: number;
  /** The other end of a chosen range. */
  anchor: number;
  column: number;
}

const DOWN: Record<string, number> = {
  ArrowUp: -1,
  ArrowDown: 1,
  PageUp: -8,
  PageDown: 8,
  Home: -1e6,
  End: 1e6,
};
const ASIDE: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 };
const within = (at: number, size: number) => Math.max(0, Math.min(size - 1, at));

/** Where a key leads; null for keys that lead nowhere. With Shift the chosen range grows. */
export function moved(
  cursor: Cursor,
  key: string,
  shift: boolean,
  { rows, columns }: { rows: number; columns: number },
): Cursor | null {
  const down = DOWN[key];
  if (down !== undefined) {
    const row = within(cursor.row + down, rows);
    return { ...cursor, row, anchor: shift ? cursor.anchor : row };
  }
  const aside = ASIDE[key];
  return aside === undefined ? null : { ...cursor, column: within(cursor.column + aside, columns) };
}

/** Lines between both ends of the range. */
export function chosen(lines: Line[], { row, anchor }: Cursor): Line[] {
  return lines.slice(Math.min(row, anchor), Math.max(row, anchor) + 1);
}

/** A setting of several lines at once. */
export const forAll = (lines: Line[], field: string, value: unknown): Settings =>
  Object.fromEntries(lines.map((one) => [`${one.kind}/${one.number}/${field}`, value]));
