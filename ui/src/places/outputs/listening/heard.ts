import type { Hearing, Outputs, WishResult } from '../../../api/client';
import { count } from '../../../look/format';

/** One source as a listener hears it. */
export interface Heard {
  source: Hearing['sources'][number];
  db: number | null;
  ms: number | null;
  ways: number;
  wishes: WishResult[];
}

/** Everything that a listener hears, the loudest first and what is silent last. */
export function heardBy(hearing: Hearing, listener: number): Heard[] {
  const seat = hearing.listeners.findIndex((one) => one.number === listener);
  const all = hearing.sources.map((source, at) => ({
    source,
    db: hearing.db[at]?.[seat] ?? null,
    ms: hearing.ms[at]?.[seat] ?? null,
    ways: hearing.ways[at]?.[seat] ?? 0,
    wishes: hearing.wishes.filter((one) => one.source === source.id && one.listener === listener),
  }));
  return all.sort((a, b) => (b.db ?? -200) - (a.db ?? -200));
}

/** The listener and the source that are looked at, kept from view to view. */
export interface Chosen {
  listener: number | null;
  source: string | null;
}

export interface State {
  kind: 'well' | 'look' | 'stop';
  text: string;
}

/** How it goes for a listener, in few words: the worst first. */
export function stateOf(hearing: Hearing, outputs: Outputs, listener: number): State {
  const broken = hearing.wishes.filter((one) => one.listener === listener && !one.kept).length;
  if (broken > 0)
    return { kind: 'stop', text: `✕ ${count(broken, 'unmet requirement')}`.replace('wishs', 'wishes') };
  const heard = heardBy(hearing, listener).filter((one) => one.db !== null).length;
  if (heard === 0) return { kind: 'look', text: hearing.levels.from === null ? 'not known' : '! no signal' };
  const zone = outputs.zones.find((one) => one.at === listener && Math.abs(one.late_ms) > 1);
  if (zone) return { kind: 'look', text: `! ${lateness(zone.late_ms)}` };
  return { kind: 'well', text: '✓ all met' };
}

/** 2.1 ms early, 0.4 ms late. */
export const lateness = (ms: number) =>
  Math.abs(ms) < 0.05 ? 'in time' : `${Math.abs(ms).toFixed(1)} ms ${ms < 0 ? 'early' : 'late'}`;

/** The length of a bar for a level, as a percentage: 0 dB and more fill it. */
export const bar = (db: number | null) =>
  db === null ? 0 : Math.max(2, Math.min(100, ((db + 60) / 60) * 100));
