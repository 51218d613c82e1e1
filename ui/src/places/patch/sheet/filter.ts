import type { Port, Show } from '../../../api/client';

// Which strands the sheet shows. What is hidden gives its rows away, so that what is left stands together; ports that
// stand side by side stay so.
export const FILTERS = ['all', 'loose', 'crossing', 'look'] as const;
export type Filter = (typeof FILTERS)[number];

export const FILTER_WORDS: Record<Filter, string> = {
  all: 'All',
  loose: 'Incomplete',
  crossing: 'Not 1:1',
  look: 'Has findings',
};

/** Strands of each filter but the first, which is everything. */
export function strandsOf(show: Show): Record<Exclude<Filter, 'all'>, Set<string>> {
  const { ports, threads, loose } = show.sheet;
  const byId = new Map(ports.map((port) => [port.id, port]));
  const at = new Set(show.findings.filter((one) => one.accepted === null).flatMap((one) => one.at));
  return {
    loose: new Set(loose.flatMap((end) => byId.get(end.port)?.strands ?? [])),
    crossing: new Set(threads.filter((thread) => !thread.straight).flatMap((thread) => thread.strands)),
    look: new Set(ports.filter((port) => at.has(port.id)).flatMap((port) => port.strands)),
  };
}

/** Strands with a port whose name or mark fits what is sought; null while nothing is. */
export function found(ports: Port[], find: string): Set<string> | null {
  const words = find.trim().toLowerCase();
  if (!words) return null;
  const fits = (port: Port) => port.name.toLowerCase().includes(words) || port.mark.toLowerCase() === words;
  return new Set(ports.filter(fits).flatMap((port) => port.strands));
}

export interface Shown {
  ports: Port[];
  /** Rows of the sheet as it is shown. */
  rows: number;
}

/** The ports of some strands, moved together; all of them where nothing is filtered. */
export function shown(ports: Port[], filters: (Set<string> | null)[]): Shown {
  const sets = filters.filter((set) => set !== null);
  if (sets.length === 0) return { ports, rows: rowsOf(ports) };
  const left = ports.filter((port) => port.strands.some((strand) => sets.every((set) => set.has(strand))));
  const places = new Map(
    [...new Set(left.map((port) => port.row))].sort((a, b) => a - b).map((row, i) => [row, i]),
  );
  const moved = left.map((port) => ({ ...port, row: places.get(port.row) ?? 0 }));
  return { ports: moved, rows: rowsOf(moved) };
}

const rowsOf = (ports: Port[]) => ports.reduce((most, port) => Math.max(most, port.row + 1), 0);
