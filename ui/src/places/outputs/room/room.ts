import type { Outputs } from '../../../api/client';

/** A speaker or a listener in the room. */
export interface Thing {
  /** Of its settings. */
  path: string;
  name: string;
  /** Beside it in the plan. */
  short: string;
  kind: 'main' | 'zone' | 'ears';
  speaker: 'main' | 'zone' | null;
  x: number | null;
  y: number | null;
  /** Samples, of a speaker. */
  delay: number | null;
}

const speakerOf = (set: string | null): 'main' | 'zone' => (set === 'main' ? 'main' : 'zone');

/** Speakers, and then listeners. */
export function things(outputs: Outputs): Thing[] {
  const speakers = outputs.outputs
    .filter((one) => one.speaker !== null)
    .map((one) => ({
      path: `output/${one.number}`,
      name: `Output ${one.number}${one.label ? `, ${one.label}` : ''}`,
      short: `${one.number} ${one.label}`.trim(),
      kind: speakerOf(one.speaker),
      speaker: speakerOf(one.speaker),
      x: one.x,
      y: one.y,
      delay: one.delay,
    }));
  const listeners = outputs.listeners.map((one) => ({
    path: `listener/${one.number}`,
    name: one.name || `Listener ${one.number}`,
    short: one.name || String(one.number),
    kind: 'ears' as const,
    speaker: null,
    x: one.x,
    y: one.y,
    delay: null,
  }));
  return [...speakers, ...listeners];
}

export interface Extent {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** What of the room is drawn: everything that has a place, with room around it; the stage is at the top. */
export function extent(all: Pick<Thing, 'x' | 'y'>[]): Extent {
  const xs = [-12, 12, ...all.flatMap((one) => (one.x === null ? [] : [one.x - 4, one.x + 4]))];
  const ys = [-5, 14, ...all.flatMap((one) => (one.y === null ? [] : [one.y - 3, one.y + 4]))];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return { left, top, width: Math.max(...xs) - left, height: Math.max(...ys) - top };
}

/** Where the words beside a thing stand: at their line, beginning or ending at x. */
export interface Words {
  x: number;
  y: number;
  end: boolean;
}

/** Height of a line of words, and width of a letter, by their size. */
const LINE = 1.25;
const LETTER = 0.6;

/** Words beside each thing, away from the middle; where two would cover each other, the later one goes down line by line. */
export function wordsBeside(
  all: Pick<Thing, 'path' | 'short' | 'x' | 'y'>[],
  size: number,
): Map<string, Words> {
  const taken: { from: number; to: number; y: number }[] = [];
  const found = new Map<string, Words>();
  const inOrder = [...all].sort((one, other) => (one.y ?? 0) - (other.y ?? 0));
  for (const one of inOrder) {
    const at = one.x ?? 0;
    const end = at < 0;
    const x = at + size * (end ? -1.3 : 1.3);
    const width = one.short.length * size * LETTER;
    const [from, to] = end ? [x - width, x] : [x, x + width];
    let y = (one.y ?? 0) + size * 0.4;
    const covers = (line: (typeof taken)[number]) =>
      line.from < to && from < line.to && Math.abs(line.y - y) < size * LINE;
    while (taken.some(covers)) y += (size * LINE) / 2;
    taken.push({ from, to, y });
    found.set(one.path, { x, y, end });
  }
  return found;
}
