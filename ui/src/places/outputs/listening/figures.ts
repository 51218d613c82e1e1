import type { Hearing } from '../../../api/client';

export interface Cell {
  listener: number;
  title: string;
  db: number | null;
  wish: 'kept' | 'broken' | null;
}
export interface Row {
  source: Hearing['sources'][number];
  cells: Cell[];
}

/** A row a source, a cell a listener, each with how its wishes are. */
export function cellsOf(hearing: Hearing): Row[] {
  const wishes = new Map<string, 'kept' | 'broken'>();
  for (const one of hearing.wishes) {
    const key = `${one.source} ${one.listener}`;
    if (wishes.get(key) !== 'broken') wishes.set(key, one.kept ? 'kept' : 'broken');
  }
  return hearing.sources.map((source, at) => ({
    source,
    cells: hearing.listeners.map((listener, seat) => ({
      listener: listener.number,
      title: listener.title,
      db: hearing.db[at]?.[seat] ?? null,
      wish: wishes.get(`${source.id} ${listener.number}`) ?? null,
    })),
  }));
}

/** In patch order, or the loudest for one listener first. */
export const sorted = (rows: Row[], seat: number | null): Row[] =>
  seat === null ? rows : [...rows].sort((a, b) => (b.cells[seat]?.db ?? -200) - (a.cells[seat]?.db ?? -200));
