import { useCallback, useEffect, useState } from 'react';
import { playing } from '../../../meters/song';

/** Part of a song that is looked at closer, in samples. */
export interface Part {
  from: number;
  to: number;
}

/** No closer than this many samples. */
const LEAST = 256;
const LOOK_MS = 250;

/** So many times as wide, about a place of the song; null where that is all of it. */
export function widened(part: Part | null, frames: number, times: number, about?: number): Part | null {
  const { from, to } = part ?? { from: 0, to: frames };
  const wide = Math.max(LEAST, Math.round((to - from) * times));
  if (wide >= frames) return null;
  const middle = about ?? (from + to) / 2;
  const share = (middle - from) / (to - from);
  const start = Math.round(Math.min(frames - wide, Math.max(0, middle - share * wide)));
  return { from: start, to: start + wide };
}

/** Later by a share of its width, within the song. */
export function later(part: Part, frames: number, share: number): Part {
  const wide = part.to - part.from;
  const start = Math.round(Math.min(frames - wide, Math.max(0, part.from + wide * share)));
  return { from: start, to: start + wide };
}

/** The same part of the song as it is, of one that goes at so many percent of its tempo. */
export const atTempo = ({ from, to }: Part, tempo: number): Part => ({
  from: Math.round((from * tempo) / 100),
  to: Math.round((to * tempo) / 100),
});

/** The part that is looked at; while the song plays it goes along with the playhead. */
export function useCloser(frames: number, on: boolean) {
  const [part, look] = useState<Part | null>(null);
  useEffect(() => {
    if (!on || !part) return;
    const follow = setInterval(() => {
      const now = playing();
      const head = now?.state === 'playing' ? now.position : null;
      if (head !== null && head !== undefined && head >= 0 && (head < part.from || head >= part.to))
        look(later({ from: head, to: head + part.to - part.from }, frames, 0));
    }, LOOK_MS);
    return () => clearInterval(follow);
  }, [on, part, frames]);
  const widen = useCallback(
    (times: number, about?: number) => look((before) => widened(before, frames, times, about)),
    [frames],
  );
  const move = useCallback(
    (share: number) => look((before) => before && later(before, frames, share)),
    [frames],
  );
  return { part, widen, move, whole: () => look(null) };
}
