import type { Port, Show } from '../api/client';

// Pieces of a show for tests.
export const port = (rail: Port['rail'], row: number, more: Partial<Port> = {}): Port => ({
  id: `${rail}/${row + 1}`,
  rail,
  row,
  number: row + 1,
  mark: String(row + 1),
  name: '',
  note: '',
  dye: 'iron',
  free: false,
  missing: null,
  block: null,
  strands: [],
  ...more,
});

export const showOf = (part: Record<string, unknown>): Show => part as unknown as Show;
