import { api, type RollLine, type Settings, taken } from '../../api/client';
import { complain } from '../../api/edits';
import { refresh } from '../../api/queries';
import { count } from '../../look/format';

export type Verdict = RollLine['verdict'];
export type Sorting = 'need' | 'patch';

// By need, as the application sorts them.
export const VERDICTS: Verdict[] = ['clipped', 'hum', 'hot', 'low', 'not heard yet', 'silent', 'good'];

const KINDS: Record<Verdict, '' | 'stop' | 'look' | 'well'> = {
  clipped: 'stop',
  hum: 'look',
  hot: 'look',
  low: 'look',
  'not heard yet': '',
  silent: 'look',
  good: 'well',
};

export const kindOf = (verdict: Verdict) => KINDS[verdict];

/** Lines come by need; patch order is told with each. */
export const order = (lines: RollLine[], sorting: Sorting): RollLine[] =>
  sorting === 'need' ? lines : [...lines].sort((one, other) => one.place - other.place);

export interface Way {
  label: string;
  options: { settings: Settings; label: string };
}

const isPhantom = (path: string) => path.endsWith('/phantom');

/** All advice as one edit. 48 V thumps in a loudspeaker that is open: where some of it would switch that, levels alone come first. */
export function adviceOf(lines: RollLine[]): Way[] {
  const way = (label: string, wanted: (path: string) => boolean): Way => {
    const of = (line: RollLine) => Object.entries(line.settings).filter(([path]) => wanted(path));
    const advised = lines.filter((line) => of(line).length > 0);
    return {
      label,
      options: {
        settings: Object.fromEntries(advised.flatMap(of)),
        label: `Line check, ${count(advised.length, 'source')}`,
      },
    };
  };
  const all = way('Levels and 48 V', () => true);
  const levels = way('Levels', (path) => !isPhantom(path));
  const sizes = [levels, all].map((one) => Object.keys(one.options.settings).length);
  if (sizes[1] === 0) return [];
  return sizes[0] === 0 || sizes[0] === sizes[1] ? [all] : [levels, all];
}

/** Ticks a source as heard, or takes the tick away. */
export async function tickHeard(channel: number, on: boolean): Promise<void> {
  try {
    await taken(api.POST('/api/ticks', { body: { kind: 'heard', subject: String(channel), on } }));
    await refresh('roll');
  } catch (error) {
    complain(error);
  }
}

/** 17:55 */
export const timeOf = (at: string) =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
