import type { Port, Settings, Show } from '../../../api/client';
import type { Column } from '../../../api/queries';
import type { Rail } from '../sheet/layout';

// What each rail's cell sets. Which values fit comes from the API; here is only which question to ask.
export interface Field {
  column: Column;
  label: string;
}

export const FIELDS: Record<Rail, Field[]> = {
  socket: [{ column: 'socket_feeds', label: 'Goes to channel' }],
  channel: [
    { column: 'hears_on_stage', label: 'Stage source' },
    { column: 'hears_on_take', label: 'Take source' },
  ],
  send: [
    { column: 'send', label: 'Source' },
    { column: 'tap', label: 'Tap' },
  ],
  track: [
    { column: 'track_input', label: 'Card sends' },
    { column: 'track_output', label: 'Card returns' },
  ],
  return: [{ column: 'return_feeds', label: 'Take source of' }],
};

/** The settings that empty a cell's first field; null where there is nothing to empty. */
export function emptying(show: Show, port: Port): Settings | null {
  switch (port.rail) {
    case 'channel':
      return { [`channel/${port.number}/stage`]: null };
    case 'send':
      return { [`send/${port.number}/source`]: null };
    case 'track':
      return { [`track/${port.number}/inputs`]: [] };
    case 'socket':
      return listening(show, 'stage', port.id);
    case 'return':
      return listening(show, 'take', port.id);
  }
}

function listening(show: Show, field: 'stage' | 'take', point: string): Settings | null {
  const heard = show.channels.filter((channel) => channel[field] === point);
  return heard.length > 0
    ? Object.fromEntries(heard.map((channel) => [`channel/${channel.number}/${field}`, null]))
    : null;
}

/** Numbers of a rail's items that some ports stand for; both sides of a stereo one are one item. */
export const numbersOf = (ports: Port[]) => [...new Set(ports.map((port) => port.number))];

/** The same setting for many items. */
export const forAll = (
  kind: string,
  numbers: number[],
  field: string,
  value: (nth: number) => unknown,
): Settings => Object.fromEntries(numbers.map((number, i) => [`${kind}/${number}/${field}`, value(i)]));

/** Names for a run of items: "Choir" becomes Choir 1, Choir 2; a list, one name a line, is taken as it is. */
export function namesFor(text: string, count: number): string[] {
  const lines = text.split(/\r?\n/).map((line) => line.trim());
  if (lines.length > 1) return lines.slice(0, count);
  const name = lines[0] ?? '';
  if (count === 1 || name === '') return Array.from({ length: count }, () => name);
  const [, stem = name, first = '1'] = /^(.*?)\s*(\d+)$/.exec(name) ?? [];
  return Array.from({ length: count }, (_, i) => `${stem} ${Number(first) + i}`);
}

/** The port that a setting is changed at, such as "track/7/inputs". */
export function portOf(show: Show, setting: string): Port | undefined {
  const [kind, number] = setting.split('/');
  return show.sheet.ports.find((port) => port.rail === kind && port.number === Number(number));
}
