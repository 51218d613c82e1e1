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
